import type { DocumentFormat } from '#core/batch/document-formats.ts';
import { askFile } from '#engine/server-requests.ts';
import { saveFile } from '#web/desks/shared/save-file.ts';
import type { DocumentWish } from '#web/server/batch-document.ts';

/**
 * Has the pictures of a batch written to one document, and hands it to the person.
 *
 * @param job id of the batch
 * @param sheet pages that were laid out; a report of the batch where there are none
 * @throws RequestProblem; what the signal was aborted with
 */
export async function saveDocument(
  job: string,
  format: DocumentFormat,
  sheet: DocumentWish['sheet'],
  signal: AbortSignal,
): Promise<void> {
  const wish: DocumentWish = { format: format.id, sheet };
  const { name, bytes } = await askFile(`/api/batches/${job}/document`, {
    method: 'POST',
    json: wish,
    signal,
  });
  const blob = await new Response(bytes).blob();
  signal.throwIfAborted();
  saveFile(new Blob([blob], { type: format.type }), decodeURIComponent(name));
}
