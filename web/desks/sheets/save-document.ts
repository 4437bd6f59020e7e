import type { DocumentFormat } from '#core/batch/document-formats.ts';
import { saveAnswer } from '#web/desks/shared/save-answer.ts';
import type { DocumentWish } from '#web/server/batch-document.ts';

/**
 * Has the pictures of a batch written to one document, and hands it to the person.
 *
 * @param job id of the batch
 * @param sheet pages that were laid out; a report of the batch where there are none
 * @throws RequestProblem; what the signal was aborted with
 */
export function saveDocument(
  job: string,
  format: DocumentFormat,
  sheet: DocumentWish['sheet'],
  signal: AbortSignal,
): Promise<void> {
  const wish: DocumentWish = { format: format.id, sheet };
  return saveAnswer(`/api/batches/${job}/document`, wish, format.type, signal);
}
