import type { Bounds } from '#core/model/mesh.ts';
import { dot, type Vector } from '#core/model/vectors.ts';
import { besideLegends, cameraAxes, fitCamera, type ViewName, viewDirections } from '#core/scene/camera.ts';
import type { Camera } from '#core/scene/document.ts';
import { inWorld, upOf } from '#core/scene/things/upright.ts';
import { pictureAspect, shownScene, type useDesk } from './desk-store.ts';

type Desk = ReturnType<typeof useDesk.getState>;

/** Where a named view looks from, and what is up in it: what is up in the world, unless one looks along that. */
function viewOf(view: ViewName, worldUp: Vector): { from: Vector; up: Vector } {
  const { from, up } = viewDirections[view];
  if (view === 'oblique') return { from: inWorld([...from], worldUp), up: worldUp };
  const along = Math.abs(dot([...from], worldUp)) > 0.9;
  // Along what is up: as the view of that name has it where z is up.
  const aside = worldUp[2] !== 0 ? [...up] : [0, 0, 1];
  return { from: [...from], up: (along ? aside : worldUp) as Vector };
}

/** A camera that sees all that is shown, beside the legends, from a direction or one of the named ones. */
export function lookFrom(
  view: ViewName | { from: readonly number[]; up: readonly number[] },
  state: Desk,
): Camera {
  const { scales, camera, upright } = shownScene(state);
  const { from, up } = typeof view === 'string' ? viewOf(view, upOf(upright)) : view;
  const room = besideLegends(pictureAspect(state), scales);
  return fitCamera(state.shown, [...from] as Vector, [...up] as Vector, room, camera);
}

/** A camera that sees a box from where it looks now, as it is rolled now. */
export function lookAt(bounds: Bounds, state: Desk): Camera {
  const { camera } = shownScene(state);
  const { back, up } = cameraAxes({ ...camera, roll: 0 });
  const along = Math.abs(dot(back, camera.up)) > 0.98;
  const seen = lookFrom({ from: back, up: along ? up : camera.up }, { ...state, shown: bounds });
  return { ...seen, roll: camera.roll };
}
