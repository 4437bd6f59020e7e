import { dueStep } from '#core/motion/play-clock.ts';
import { filmPictures } from '#core/motion/reel-facts.ts';
import { sceneAt } from '#core/motion/scene-at.ts';
import type { Scene } from '#core/scene/document.ts';
import { playsInCycle } from '#core/scene/plays-in-cycle.ts';
import { shareOfCycle } from '#core/scene/things/cycle.ts';
import { stepsOfStretch } from '#core/scene/things/stretch.ts';
import { goToFilmTime, goToPhase, goToStep, keptSceneNow, seenFrom, useDesk } from './desk-store.ts';

/** What plays: states of the scene in a row, which go round. */
export interface PlayTrack {
  count(): number;
  /** States a second. */
  speed(scene: Scene): number;
  /** Which of them a scene is in. */
  now(scene: Scene): number;
  at(scene: Scene, index: number): Scene;
  go(index: number): void;
}

/** In how many states a cycle plays on the screen: few enough that those that were made are met again. */
const CYCLE_STATES = 96;
const phaseOf = (index: number): number => (360 * index) / CYCLE_STATES;

/** The steps that play, by their indices. */
export function stretchNow(): { first: number; last: number } {
  const { run, history } = useDesk.getState();
  return stepsOfStretch(history.scene.stretch, run.steps.length);
}

export const playTracks: Record<'steps' | 'cycle' | 'film', PlayTrack> = {
  film: {
    count: () => filmPictures(keptSceneNow()).count,
    speed: () => keptSceneNow().reel.rate,
    now: () => indexInFilm(useDesk.getState().filmTime),
    at(_, index) {
      const { run, outside } = useDesk.getState();
      const kept = keptSceneNow();
      return seenFrom(sceneAt(kept, run, filmPictures(kept).at(index)), outside);
    },
    go: (index) => goToFilmTime(filmPictures(keptSceneNow()).at(index)),
  },
  steps: {
    count() {
      const { first, last } = stretchNow();
      return last - first + 1;
    },
    speed: () => useDesk.getState().rate,
    // From a step outside, play begins with the first of the stretch.
    now({ step }) {
      const { first, last } = stretchNow();
      return step >= first && step <= last ? step - first : 0;
    },
    at: (scene, index) => ({ ...scene, step: stretchNow().first + index }),
    go: (index) => goToStep(stretchNow().first + index),
  },
  cycle: {
    count: () => CYCLE_STATES,
    speed: ({ cycle }) => CYCLE_STATES / cycle.seconds,
    now: ({ cycle }) => Math.floor(shareOfCycle(cycle) * CYCLE_STATES) % CYCLE_STATES,
    at: (scene, index) => ({ ...scene, cycle: { ...scene.cycle, phase: phaseOf(index) } }),
    go: (index) => goToPhase(phaseOf(index)),
  },
};

/** The picture of the film that is nearest to a time. */
function indexInFilm(time: number): number {
  const { count, nearest } = filmPictures(keptSceneNow());
  return Math.max(0, Math.min(count - 1, nearest(time)));
}

/** What plays on the desk that is shown. */
export const trackNow = (): PlayTrack => playTracks[useDesk.getState().desk === 'reel' ? 'film' : playsNow()];

/** What the strip shows and plays now: the cycle where that was chosen, or where there are no steps to play. */
export function playsNow(): 'steps' | 'cycle' {
  const { run, plays, history } = useDesk.getState();
  if (plays === 'steps' && run.steps.length > 1) return 'steps';
  return playsInCycle(history.scene).moves ? 'cycle' : 'steps';
}

export const dueOn = (track: PlayTrack, scene: Scene, elapsed: number, from: number): number =>
  dueStep(elapsed, from, track.speed(scene), track.count());

/** How many states are made before they are due. */
const AHEAD = 3;

/** The states that play comes to next, over the end to the beginning. */
export const statesAhead = (index: number, count: number): number[] =>
  Array.from({ length: Math.min(AHEAD, count - 1) }, (_, i) => (index + 1 + i) % count);
