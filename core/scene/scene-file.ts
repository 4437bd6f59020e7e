import { readScene, type Scene } from './document.ts';
import { type Enclosure, enclosuresIn } from './enclosure.ts';

/** A scene as one file: its document, and the files that go with it in base64 by the names of their contents. */
export interface SceneFile {
  scene: Scene;
  enclosed: { enclosure: Enclosure; base64: string }[];
}

/** @param base64 of the files that go with the scene, in the order of `enclosuresIn` */
export function writeSceneFile(scene: Scene, base64: readonly string[]): string {
  const enclosures = enclosuresIn(scene);
  if (enclosures.length === 0) return JSON.stringify(scene, null, 2);
  const enclosed = Object.fromEntries(enclosures.map(({ bytes }, i) => [bytes.hash, base64[i]]));
  return JSON.stringify({ ...scene, enclosed }, null, 2);
}

/**
 * Reads what `writeSceneFile` wrote, or a document alone.
 *
 * @throws Error saying what does not fit, and what to do
 */
export function readSceneFile(text: string): SceneFile {
  const written = JSON.parse(text) as { document?: unknown; enclosed?: Record<string, unknown> };
  const scene = readScene(written.document ?? written);
  const enclosed = enclosuresIn(scene).flatMap((enclosure) => {
    const base64 = written.enclosed?.[enclosure.bytes.hash];
    return typeof base64 === 'string' ? [{ enclosure, base64 }] : [];
  });
  return { scene, enclosed };
}
