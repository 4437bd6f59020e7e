import type { SceneToWrite } from './scene-to-write.ts';
import { writeSceneGlb } from './write-scene-glb.ts';
import { writeSceneUsdz } from './write-scene-usdz.ts';

/** A format in which a scene is given to other programs. */
export interface SceneWriter {
  id: string;
  name: string;
  /** Of its files, with the dot. */
  ending: string;
  type: string;
  /** What it is good for, in a few words. */
  purpose: string;
  /** Whether it can be packed, and by what. */
  packedBy: string | null;
  /** Whether it shows lines and points. */
  hasLines: boolean;
  write(scene: SceneToWrite, packed: boolean): Promise<Uint8Array<ArrayBuffer>>;
}

/** Formats a scene is given out in as bodies. A new one is a file beside this and an entry here. */
export const sceneWriters: readonly SceneWriter[] = [
  {
    id: 'glb',
    name: 'GLB',
    ending: '.glb',
    type: 'model/gltf-binary',
    purpose: 'viewers, slides and web pages',
    packedBy: 'meshopt',
    hasLines: true,
    write: writeSceneGlb,
  },
  {
    id: 'usdz',
    name: 'USDZ',
    ending: '.usdz',
    type: 'model/vnd.usdz+zip',
    purpose: 'phones and tablets',
    packedBy: null,
    hasLines: false,
    write: async (scene) => writeSceneUsdz(scene),
  },
];

/** @throws Error for a format this version does not have */
export function sceneWriter(id: string): SceneWriter {
  const found = sceneWriters.find((w) => w.id === id);
  if (!found) throw new Error(`Scenes are not written as "${id}" in this version.`);
  return found;
}
