import { boundsDiagonal } from '#core/model/mesh.ts';
import { runBounds } from '#core/model/run.ts';
import { lookAround, walk, withProjection } from '#core/scene/camera-moves.ts';
import { upOf } from '#core/scene/things/upright.ts';
import { edit, moveCamera, sceneNow, useDesk } from './desk-store.ts';

/** Strides through the diagonal of a run. */
const STRIDES = 60;
/** A turn of the head for one press of a key, in radians. */
const TURN = Math.PI / 36;

/** How far one press of a key or one notch of the wheel goes, in the unit of the run. */
export const stride = (): number => boundsDiagonal(runBounds(useDesk.getState().run)) / STRIDES;

/** Begins or ends walking: through the model, with the eye as what turns. Nobody walks in parallel projection. */
export function walkOrNot(): void {
  const walking = !useDesk.getState().walking;
  const { camera } = sceneNow();
  if (walking && camera.projection === 'parallel')
    edit({ type: 'setting.change', thing: 'camera', change: withProjection(camera, 'perspective') });
  useDesk.setState({ walking });
}

/**
 * One press of an arrow key while one walks.
 *
 * @param sideways aside and upwards instead of turning and going on
 */
export function stepBy([across, down]: [number, number], sideways: boolean): void {
  const { camera, upright } = sceneNow();
  const pole = upOf(upright);
  const by = stride();
  if (sideways) moveCamera(walk(camera, { aside: across * by, rise: -down * by }, pole), 'keys');
  else if (across !== 0) moveCamera(lookAround(camera, -across * TURN, 0, pole), 'keys');
  else moveCamera(walk(camera, { ahead: -down * by }, pole), 'keys');
}
