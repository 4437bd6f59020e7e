import type { Enclosure } from '#core/scene/enclosure.ts';
import { ask, askBytes, RequestProblem } from './server-requests.ts';

/**
 * Brings the bytes of a file that goes with a scene.
 *
 * @throws Error when it is not there any more
 */
export async function bringEnclosed({ name, bytes }: Enclosure, base = ''): Promise<Uint8Array<ArrayBuffer>> {
  try {
    return new Uint8Array(await askBytes(`${base}/api/arrays/${bytes.hash}`));
  } catch (error) {
    if (error instanceof RequestProblem && error.status === 404)
      throw new Error(`The file "${name}" that goes with this scene is not there any more. Choose it again.`);
    throw error;
  }
}

/**
 * Keeps a file on the server, to go with a scene.
 *
 * @throws RequestProblem when it cannot be kept
 */
export const keepEnclosed = (name: string, body: BodyInit, base = ''): Promise<Enclosure> =>
  ask<Enclosure>(`${base}/api/enclosures?name=${encodeURIComponent(name)}`, { method: 'POST', body });
