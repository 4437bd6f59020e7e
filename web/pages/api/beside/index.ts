import { z } from '#core/model/schema.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { listedSideBySides, makeSideBySide, paneWish } from '#web/server/side-by-sides.ts';

const body = z.object({ name: z.string().max(200), of: paneWish });

/** All that is looked at side by side. */
export const GET = answer(listedSideBySides);

/** Lays scenes side by side. */
export const POST = answer(async ({ request }) => {
  const { name, of } = await readBody(request, body);
  return makeSideBySide(name, of);
});
