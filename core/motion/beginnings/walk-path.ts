import { phrasesOf } from '../../language/phrase.ts';
import { z } from '../../model/schema.ts';
import { add, lengthOf, subtract, type Vector } from '../../model/vectors.ts';
import { vectorSchema } from '../../ops/kernels/planes.ts';
import type { Camera } from '../../scene/document.ts';
import { bothEnds } from '../../scene/reel/ease.ts';
import { SmoothCurve } from '../camera-path.ts';
import type { Beginning } from './beginning.ts';

interface WalkPath {
  /** Where it passes, in the coordinates of the files. */
  places: Vector[];
}

const p = phrasesOf<WalkPath>();

/** How far ahead it looks, as a share of the way to the next place. */
const AHEAD = 0.5;

/** The camera walks through the model, looking where it goes. */
export const walkPath: Beginning<WalkPath> = {
  id: 'walk a path',
  name: 'Walk a path',
  purpose: 'through places of the model, looking ahead',
  schema: z.object({ places: z.array(vectorSchema).min(2).max(500) }),
  defaults({ bounds, scene, dimension }) {
    if (dimension !== 3) return 'This run is flat: there is nothing to walk into. Sweep, fade or play it.';
    const { camera } = scene;
    const middle = [0, 1, 2].map((k) => (bounds[2 * k] + bounds[2 * k + 1]) / 2) as Vector;
    return { places: [camera.position, middle] };
  },
  phrase: p.row(p.text('walk through '), p.places('places', 'length')),
  controls: () => [{ kind: 'places', key: 'places', label: 'Through' }],
  ease: bothEnds,
  begin({ places }, { from, to, ease }, { scene: { camera } }) {
    const way = new SmoothCurve(places);
    const last = places.length - 1;
    const looksAt = (i: number): Vector => {
      if (i < last) return way.at(i, AHEAD);
      const before = way.at(last - 1, 1 - AHEAD);
      return add(places[last], subtract(places[last], before));
    };
    const keys = places.map((place, i) => ({
      at: from + ((to - from) * i) / last,
      value: standing(camera, place, looksAt(i)),
      ease,
    }));
    return { lanes: [{ of: ['camera'], smooth: true, steady: true, keys }] };
  },
};

/** A camera at a place; where it would look at itself it looks as it did. */
function standing(camera: Camera, position: Vector, target: Vector): Camera {
  const near = lengthOf(subtract(target, position)) < 1e-12;
  const ahead = near ? add(position, subtract(camera.target, camera.position)) : target;
  return { ...camera, projection: 'perspective', position, target: ahead };
}
