import type { Scene } from '../scene/document.ts';
import { type Found, PICTURE } from './rule.ts';

/** Something that a picture has to say and does not, as its notes are switched off. */
export function unstated({ stamp }: Scene, says: readonly string[], why: (said: string) => string): Found[] {
  if (stamp.notes) return [];
  return says.map((said) => ({
    place: PICTURE,
    says: why(said),
    remedy: 'Let the picture say it: exaggeration and hidden parts, beside the time.',
    mend: {
      says: 'Let the picture say it',
      edits: [{ type: 'setting.change', thing: 'stamp', change: { notes: true } }],
    },
  }));
}
