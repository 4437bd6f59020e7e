import { phrasesOf } from '../../language/phrase.ts';
import { z } from '../../model/schema.ts';
import { bothEnds, even } from '../../scene/reel/ease.ts';
import type { Beginning } from './beginning.ts';

interface BuildUp {
  /** Which line comes first: the uppermost of the scene, or the lowest. */
  first: 'top' | 'bottom';
}

const p = phrasesOf<BuildUp>();

/** The lines on show come one after the other, each as opaque as it is in the end. */
export const buildUp: Beginning<BuildUp> = {
  id: 'build up',
  name: 'Build the scene up',
  purpose: 'one line after the other comes in',
  schema: z.object({ first: z.enum(['top', 'bottom']) }),
  defaults: ({ scene }) =>
    scene.layers.filter((l) => l.visible).length > 1
      ? { first: 'top' }
      : 'There are no two lines on show to come one after the other. Add one, or fade the one there is.',
  phrase: p.row(p.text('build the scene up'), p.flag('first', ' from below', 'bottom', 'top')),
  controls: () => [
    {
      kind: 'choice',
      key: 'first',
      label: 'First comes',
      choices: [
        { value: 'top', label: 'the first line' },
        { value: 'bottom', label: 'the last line' },
      ],
    },
  ],
  ease: bothEnds,
  begin({ first }, { from, to, ease }, { scene }) {
    const shown = scene.layers.filter((l) => l.visible && l.opacity > 0);
    const ordered = first === 'top' ? shown : [...shown].reverse();
    const each = (to - from) / Math.max(1, ordered.length);
    return {
      lanes: ordered.map(({ id, opacity }, i) => ({
        of: ['layers', id, 'opacity'],
        keys: [
          { at: from + i * each, value: 0, ease },
          { at: from + (i + 1) * each, value: opacity, ease: even },
        ],
      })),
    };
  },
};
