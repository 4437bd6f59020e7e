import { sayNumber } from '../../language/sentence.ts';
import { largestAxis } from '../../measure/force.ts';
import { gaugeLabel } from '../../scene/gauge-label.ts';
import { isReading } from '../../scene/reading.ts';
import { rule } from '../rule.ts';

/** A force of which nearly nothing is along the direction that it is asked along. */
export const smallPart = rule({
  id: 'small part',
  name: 'a force asked along a small component',
  severity: 'moderate',
  of: 'scene',
  find: ({ scene, run, readings }) =>
    scene.gauges.flatMap((gauge) => {
      const found = readings[gauge.id];
      if (!isReading(found) || !found.whole || typeof found.value !== 'number') return [];
      const { whole, value, unit } = found;
      const most = largestAxis(whole, value);
      if (most === null) return [];
      const all = Math.hypot(...whole);
      const axis = `${whole[most] < 0 ? '−' : '+'}${'xyz'[most]}`;
      const name = gaugeLabel(gauge, scene, run);
      const along = [0, 1, 2].map((k) => (k === most ? Math.sign(whole[most]) : 0));
      return {
        place: { kind: 'gauge' as const, id: gauge.id, name },
        says: `${name}: of ${sayNumber(all, 3)}${unit ? ` ${unit}` : ''} hardly anything is along this direction; most is along ${axis}.`,
        remedy: `Ask along ${axis}, or for the whole force.`,
        mend: {
          says: `Ask along ${axis}`,
          edits: [
            {
              type: 'gauge.change' as const,
              id: gauge.id,
              change: { options: { ...gauge.options, along } },
            },
          ],
        },
      };
    }),
});
