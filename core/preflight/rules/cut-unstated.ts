import { saidOfPicture } from '../../scene/said-in-picture.ts';
import { rule } from '../rule.ts';
import { unstated } from '../unstated.ts';

/** Something that is left out, and nothing that says so. */
export const cutUnstated = rule({
  id: 'cut unstated',
  name: 'hidden or cut parts not stated',
  severity: 'serious',
  of: 'scene',
  find: ({ scene, run }) =>
    unstated(
      scene,
      saidOfPicture(scene, run).leftOut,
      (said) => `Not all of the model is shown, and the picture does not say so: ${said}.`,
    ),
});
