import { cleanName } from '#core/model/clean-text.ts';
import { answer } from '#web/server/answer.ts';
import { keepEnclosure } from '#web/server/enclosures.ts';

/** Keeps the body of the request as a file that goes with a scene; see `Enclosure`. */
export const POST = answer(({ request, url }) => {
  const name = cleanName(url.searchParams.get('name') ?? '', 'file').slice(0, 300);
  return keepEnclosure(name, (request.body ?? []) as unknown as AsyncIterable<Uint8Array>);
});
