import { besideLegends, fitCamera, type Vector, type ViewName, viewDirections } from '#core/scene/camera.ts';
import type { Camera } from '#core/scene/document.ts';
import { pictureAspect, type useDesk } from './desk-store.ts';

type Desk = ReturnType<typeof useDesk.getState>;

/** A camera that sees all that is shown, beside the legends, from a direction or one of the named ones. */
export function lookFrom(
  view: ViewName | { from: readonly number[]; up: readonly number[] },
  state: Desk,
): Camera {
  const { from, up } = typeof view === 'string' ? viewDirections[view] : view;
  const { scales, camera } = state.history.scene;
  const room = besideLegends(pictureAspect(state), scales);
  return fitCamera(state.shown, [...from] as Vector, [...up] as Vector, room, camera);
}
