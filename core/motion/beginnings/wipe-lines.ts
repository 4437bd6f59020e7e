import { phrasesOf } from '../../language/phrase.ts';
import { z } from '../../model/schema.ts';
import type { Layer } from '../../scene/document.ts';
import { bothEnds, even } from '../../scene/reel/ease.ts';
import type { NewLane } from '../../scene/reel/lane.ts';
import type { WipeSide } from '../../scene/things/wipe.ts';
import { type Beginning, lineByName, type Span } from './beginning.ts';

interface WipeLines {
  /** Ids of the lines before and behind it. */
  before: string;
  after: string;
}

const p = phrasesOf<WipeLines>();

/** An edge goes over the picture: what is shown on one side of it gives way to what is shown on the other. */
export const wipeLines: Beginning<WipeLines> = {
  id: 'wipe lines',
  name: 'Wipe from one line to another',
  purpose: 'an edge goes over the picture, before and after beside one another',
  schema: z.object({ before: z.string(), after: z.string() }),
  defaults({ lines, scene }) {
    const shown = scene.layers.filter((l) => l.visible);
    const [before, after] = shown.length > 1 ? shown : scene.layers;
    return lines.length > 0 && after
      ? { before: before.id, after: after.id }
      : 'There are no two lines, one to be shown before the other. Duplicate the one there is, and change it.';
  },
  phrase: p.row(p.text('wipe from '), lineByName('before'), p.text(' to '), lineByName('after')),
  controls: ({ lines }) => [
    {
      kind: 'choice',
      key: 'before',
      label: 'Before',
      choices: lines.map(({ text, value }) => ({ value, label: text })),
    },
    {
      kind: 'choice',
      key: 'after',
      label: 'After',
      choices: lines.map(({ text, value }) => ({ value, label: text })),
    },
  ],
  ease: bothEnds,
  begin({ before, after }, span, { scene }) {
    const side = ({ id, wipe }: Layer): WipeSide =>
      id === before ? 'before' : id === after ? 'after' : wipe;
    return {
      layers: scene.layers.map((l) => {
        const wipe = side(l);
        return wipe === l.wipe ? l : { ...l, wipe, visible: true };
      }),
      lanes: [movingWipe(span)],
    };
  },
};

/** The edge goes back over the whole of the picture: what lies behind it is all that is seen in the end. */
export const movingWipe = ({ from, to, ease }: Span): NewLane => ({
  of: ['wipe', 'place'],
  keys: [
    { at: from, value: 1, ease },
    { at: to, value: 0, ease: even },
  ],
});
