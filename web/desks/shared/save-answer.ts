import { askFile } from '#engine/server-requests.ts';
import { saveFile } from './save-file.ts';

/**
 * Asks the server for a file, and hands it to the person under the name that it has there.
 *
 * @param type of the file
 * @throws RequestProblem; what the signal was aborted with
 */
export async function saveAnswer(
  address: string,
  json: unknown,
  type: string,
  signal: AbortSignal,
): Promise<void> {
  const { name, bytes } = await askFile(address, { method: 'POST', json, signal });
  const blob = await new Response(bytes).blob();
  signal.throwIfAborted();
  saveFile(new Blob([blob], { type }), decodeURIComponent(name));
}
