import { followsTime } from '../../scene/moment-on-show.ts';
import { PICTURE, rule } from '../rule.ts';

/** Words that tell the moment. */
const MOMENT = /\{\s*(time|step|frequency)\b/;

/** One moment of several, and nothing that says which. */
export const noTime = rule({
  id: 'no time',
  name: 'no time',
  severity: 'moderate',
  of: 'scene',
  find({ scene, run }) {
    if (run.steps.length < 2 || !followsTime(scene) || scene.stamp.visible) return [];
    const said = scene.annotations.some(
      (a) => a.visible && [a.text, a.title, a.rows].some((t) => typeof t === 'string' && MOMENT.test(t)),
    );
    if (said) return [];
    return [
      {
        place: PICTURE,
        says: `Nothing says which of ${run.steps.length} steps is shown.`,
        remedy: 'Show the time on the picture.',
        mend: {
          says: 'Show the time',
          edits: [{ type: 'setting.change', thing: 'stamp', change: { visible: true } }],
        },
      },
    ];
  },
});
