import { phrasesOf } from '../../language/phrase.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { playsInCycle } from '../../scene/plays-in-cycle.ts';
import { even, hold } from '../../scene/reel/ease.ts';
import type { Key } from '../../scene/reel/lane.ts';
import { KEY_GAP } from '../../scene/reel/lane.ts';
import type { Beginning } from './beginning.ts';

interface TurnPhase {
  /** How often the cycle is gone through. */
  cycles: number;
}

const p = phrasesOf<TurnPhase>();

/** What swings, sweeps or pulses goes through its cycle. */
export const turnPhase: Beginning<TurnPhase> = {
  id: 'turn the phase',
  name: 'Turn the phase',
  purpose: 'what swings, sweeps or pulses goes through its cycle',
  schema: z.object({ cycles: boundedNumber().positive().max(10_000) }),
  defaults({ scene }) {
    if (!playsInCycle(scene).moves)
      return 'Nothing in this scene swings, sweeps or pulses. Show a complex quantity or the shape of a mode first.';
    return { cycles: Math.max(1, Math.round(scene.reel.seconds / scene.cycle.seconds)) };
  },
  phrase: p.row(p.text('turn the phase '), p.number('cycles'), p.text(' times')),
  controls: () => [{ kind: 'number', key: 'cycles', label: 'Times', range: () => [1, 10] }],
  ease: even,
  begin({ cycles }, { from, to, ease }) {
    const each = (to - from) / cycles;
    const whole = Math.floor(cycles + 1e-9);
    const keys: Key[] = [];
    for (let i = 0; i < whole; i++) {
      keys.push({ at: from + i * each, value: 0, ease: cycles === 1 ? ease : even });
      // The end of a cycle is the beginning of the next: it jumps from 360 to 0 there, which is the same.
      keys.push({ at: from + (i + 1) * each - (i + 1 < cycles ? 2 * KEY_GAP : 0), value: 360, ease: hold });
    }
    const rest = cycles - whole;
    if (rest > 1e-9) {
      keys.push({ at: from + whole * each, value: 0, ease: even }, { at: to, value: 360 * rest, ease: even });
    }
    return { lanes: [{ of: ['cycle', 'phase'], keys }] };
  },
};
