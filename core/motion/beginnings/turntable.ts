import { phrasesOf } from '../../language/phrase.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { add, subtract, unit } from '../../model/vectors.ts';
import { rotate } from '../../scene/camera-moves.ts';
import type { Camera } from '../../scene/document.ts';
import { even } from '../../scene/reel/ease.ts';
import type { Beginning } from './beginning.ts';

interface Turntable {
  /** Of a whole turn, how many. */
  turns: number;
  /** The way that what is in front goes. */
  to: 'left' | 'right';
}

const p = phrasesOf<Turntable>();

/** The camera goes between two keys by the shortest way: it has one at every quarter of a turn. */
const QUARTER = Math.PI / 2;

/** The camera goes round what it looks at, as high and as far as it stands. */
export const turntable: Beginning<Turntable> = {
  id: 'turntable',
  name: 'Turntable',
  purpose: 'once round what the camera looks at',
  schema: z.object({ turns: boundedNumber().positive().max(100), to: z.enum(['left', 'right']) }),
  defaults: ({ dimension }) =>
    dimension === 3
      ? { turns: 1, to: 'right' }
      : 'This run is flat: there is nothing to go round. Sweep, fade or play it.',
  phrase: p.row(
    p.text('turntable'),
    p.suffixes(
      { usual: { turns: 1 }, phrase: p.row(p.number('turns'), p.text(' turns')) },
      { usual: { to: 'right' }, phrase: p.row(p.text('to the left'), p.fixed('to', 'left')) },
    ),
  ),
  controls: () => [
    { kind: 'number', key: 'turns', label: 'Turns', range: () => [0.25, 4] },
    {
      kind: 'choice',
      key: 'to',
      label: 'The front goes',
      choices: [
        { value: 'right', label: 'to the right' },
        { value: 'left', label: 'to the left' },
      ],
    },
  ],
  ease: even,
  begin({ turns, to }, { from, to: until, ease }, { scene: { camera } }) {
    const angle = (to === 'right' ? -1 : 1) * 2 * Math.PI * turns;
    const keys = Math.ceil(Math.abs(angle) / QUARTER - 1e-9);
    const pole = unit(camera.up);
    return {
      lanes: [
        {
          of: ['camera'],
          // All quarters together have one ease.
          smooth: false,
          steady: true,
          keys: Array.from({ length: keys + 1 }, (_, k) => ({
            at: from + ((until - from) * k) / keys,
            value: turnedAbout(camera, (angle * k) / keys, pole),
            ease,
          })),
        },
      ],
    };
  },
};

function turnedAbout(camera: Camera, angle: number, pole: Camera['up']): Camera {
  const arm = subtract(camera.position, camera.target);
  return { ...camera, position: add(camera.target, rotate(arm, pole, angle)) };
}
