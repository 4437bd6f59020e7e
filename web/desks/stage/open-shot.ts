import type { Scene } from '#core/scene/document.ts';
import type { ShotKind } from '#core/scene/shot-groups.ts';
import { showDesk } from '#web/desks/gauges/draw-curves.ts';
import { edit, goToFilmTime, goToStep, type StageDeskName, sceneNow, useDesk } from './desk-store.ts';
import type { Shot } from './shot-edits.ts';

const kindOnDesk: Record<StageDeskName, ShotKind> = { stage: 'picture', gauges: 'charts', reel: 'film' };
const deskOfKind: Record<ShotKind, StageDeskName> = { picture: 'stage', charts: 'gauges', film: 'reel' };

/** What a shot that is kept now holds beside its small picture. */
export function whatIsOnShow(): { document: Scene; kind: ShotKind; filmTime: number | null } {
  const { desk, filmTime } = useDesk.getState();
  return { document: sceneNow(), kind: kindOnDesk[desk], filmTime: desk === 'reel' ? filmTime : null };
}

/** Opens a shot: scene, camera and time as they were kept, on the desk where that was. Undo takes the scene back. */
export function openShot(shot: Shot): void {
  const scene = shot.document;
  if (!scene) {
    useDesk.setState({ trouble: `“${shot.name}” cannot be opened: ${shot.problem}` });
    return;
  }
  edit({ type: 'scene.replace', scene: { ...scene, name: sceneNow().name } });
  goToStep(scene.step);
  const desk = deskOfKind[shot.kind];
  if (useDesk.getState().desk !== desk) showDesk(desk);
  if (shot.filmTime !== null) goToFilmTime(shot.filmTime);
}
