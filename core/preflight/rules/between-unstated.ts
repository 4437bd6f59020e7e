import { saidOfPicture } from '../../scene/said-in-picture.ts';
import { rule } from '../rule.ts';
import { unstated } from '../unstated.ts';

/** Values that no solver has computed, and nothing that says so. */
export const betweenUnstated = rule({
  id: 'between unstated',
  name: 'values between steps not stated',
  severity: 'serious',
  of: 'scene',
  find: ({ scene, run }) =>
    unstated(
      scene,
      saidOfPicture(scene, run).moment,
      (said) => `What is shown is no step of the run, and the picture does not say so: ${said}.`,
    ),
});
