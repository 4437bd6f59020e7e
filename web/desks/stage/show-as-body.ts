import { settingOf } from '#core/scene/setting.ts';
import { light } from '#core/scene/things/light.ts';
import { edit, pictureAspect, sceneNow, useDesk } from './desk-store.ts';
import { lookFrom } from './look-from.ts';

/**
 * Shows what was flat and became a body aslant, whole, and in the light bodies have.
 *
 * @param key of the edit that made it one: all of it is one step of undo
 */
export function showAsBody(key: string): void {
  const state = useDesk.getState();
  edit({ type: 'setting.change', thing: 'camera', change: lookFrom('oblique', state) }, key);
  const scene = sceneNow();
  if (scene.light.rig !== 'even') return;
  const change = light.defaults({ ...settingOf(state.run, scene), dimension: 3 }, pictureAspect(state));
  edit({ type: 'setting.change', thing: 'light', change }, key);
}
