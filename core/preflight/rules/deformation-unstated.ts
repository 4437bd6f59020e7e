import { saidOfPicture } from '../../scene/said-in-picture.ts';
import { rule } from '../rule.ts';
import { unstated } from '../unstated.ts';

/** A shape that is exaggerated, and nothing that says so. */
export const deformationUnstated = rule({
  id: 'deformation unstated',
  name: 'deformation not stated',
  severity: 'serious',
  of: 'scene',
  find: ({ scene, run }) =>
    unstated(
      scene,
      saidOfPicture(scene, run).shape,
      (said) => `The shape is not as large as it was, and the picture does not say so: ${said}.`,
    ),
});
