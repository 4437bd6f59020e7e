import { answer, NotFound } from '#web/server/answer.ts';
import { readPicture, seenFacts } from '#web/server/reports/seen-store.ts';

/** What a key tells never changes. */
const FOR_EVER = 'private, max-age=31536000, immutable';

/** What was seen by a key, as JSON; its picture where the key ends in `.png`, or the draft of it in `.draft.png`. */
export const GET = answer(async ({ params }) => {
  const [key, ...ending] = params.key!.split('.');
  const quality = { png: 'final' as const, 'draft.png': 'draft' as const }[ending.join('.')];
  const found = quality ? await readPicture(key, quality) : await seenFacts(params.key!);
  if (found === null) throw new NotFound('This was not seen, or is no longer kept.');
  if (!(found instanceof Uint8Array)) return Response.json(found, { headers: { 'Cache-Control': FOR_EVER } });
  return new Response(found as Uint8Array<ArrayBuffer>, {
    headers: { 'Content-Type': 'image/png', 'Cache-Control': FOR_EVER },
  });
});
