import type { Camera } from '../scene/document.ts';
import { type Lane, waysOf } from '../scene/reel/lane.ts';
import { CameraPath } from './camera-path.ts';
import { eased } from './easing.ts';

/** Keys of a camera that it passes on one path. */
interface Stretch {
  /** Indices of its first and last key. */
  first: number;
  last: number;
  steady: boolean;
  path: CameraPath;
}

/**
 * The paths of a camera through its keys: one for those that follow each other and go alike. At a cut (a key that is held)
 * the one ends, and the next begins behind it. None where the camera goes round what it looks at, from key to key.
 */
export class CameraStretches {
  /** By the key where each way begins. */
  private readonly stretches: (Stretch | null)[] = [];

  private readonly keys: Lane['keys'];

  constructor(lane: Lane) {
    const { keys } = lane;
    this.keys = keys;
    const ways = waysOf(lane);
    const held = (i: number): boolean => keys[i].ease.kind === 'hold';
    for (let first = 0; first + 1 < keys.length; ) {
      let last = first + 1;
      if (!held(first)) while (last + 1 < keys.length && !held(last) && !keys[last].way) last++;
      const { smooth, steady } = ways[first];
      const cameras = keys.slice(first, last + 1).map((k) => k.value as Camera);
      const flies = !held(first) && (smooth || steady);
      const stretch = flies ? { first, last, steady, path: new CameraPath(cameras, smooth) } : null;
      for (; first < last; first++) this.stretches.push(stretch);
    }
  }

  /**
   * The camera at a time between two keys; null where it goes on no path.
   *
   * @param part index of the key before
   */
  at(part: number, time: number): Camera | null {
    const stretch = this.stretches[part];
    if (!stretch) return null;
    const { first, last, steady, path } = stretch;
    const share = (from: number, to: number): number => {
      const { at, ease } = this.keys[from];
      return eased(ease, (time - at) / (this.keys[to].at - at));
    };
    if (steady) return path.atLength(share(first, last));
    return path.at(part - first, Math.min(1, Math.max(0, share(part, part + 1))));
  }
}
