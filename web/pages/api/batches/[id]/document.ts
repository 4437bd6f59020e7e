import { answer, readBody } from '#web/server/answer.ts';
import { attachment } from '#web/server/attachment.ts';
import { documentOfBatch, documentWish } from '#web/server/batch-document.ts';

/** Pictures of a batch in one document: a report of it, or a contact sheet. */
export const POST = answer(async ({ params, request }) => {
  const wish = await readBody(request, documentWish);
  const { name, format, bytes } = await documentOfBatch(params.id!, wish, request.signal);
  return attachment(name, format.type, bytes as Uint8Array<ArrayBuffer>);
});
