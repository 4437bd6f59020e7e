import { create } from 'zustand';
import type { CompiledScale } from '#core/colour/compiled-scale.ts';
import type { Spread } from '#core/colour/spread.ts';
import { allBounded } from '#core/model/bounded-number.ts';
import { isFlat } from '#core/model/mesh.ts';
import { type RunDescription, runBounds } from '#core/model/run.ts';
import { editedInFilm } from '#core/motion/keyed-edit.ts';
import { sceneAt } from '#core/motion/scene-at.ts';
import type { PictureSeen } from '#core/preflight/picture-seen.ts';
import type { Curves } from '#core/scene/charts/chart-drawn.ts';
import type { Camera, Scale, Scene, SceneSet } from '#core/scene/document.ts';
import { applyEdit, type Edit, sayEdit } from '#core/scene/edits.ts';
import { SceneHistory } from '#core/scene/history.ts';
import type { Readings } from '#core/scene/reading.ts';
import type { KeyAt } from '#core/scene/reel/reel-edits.ts';
import { settleScale } from '#core/scene/settle-scale.ts';
import { spreadOfScale } from '#core/scene/spread-of-scale.ts';
import type { Stretch } from '#core/scene/things/stretch.ts';
import type { Picked } from '#stage/picking.ts';
import type { SaveState } from '#web/desks/shared/document-saver.ts';

import type { OnShow } from './scene-feed.ts';
import type { Shot } from './shot-edits.ts';

/** Desks that show the stage. */
export type StageDeskName = 'stage' | 'reel' | 'gauges';

interface DeskState extends OnShow {
  id: string;
  runId: string;
  run: RunDescription;
  history: SceneHistory;
  shots: Shot[];
  playing: boolean;
  /** What the strip plays, where there is a choice. */
  plays: 'steps' | 'cycle';
  /** Steps shown in a second while playing. */
  rate: number;
  save: SaveState<Scene>;
  /** Repairs the document needed to be opened, until they were read. */
  repairs: string[];
  /** Something that went wrong and should be read. */
  trouble: string | null;
  /** Layer whose line is open for fine settings. */
  openLayer: string | null;
  /** Words or marks of which the settings are open. */
  openWords: string | null;
  /** Piece of scenery of which the settings are open. */
  openPiece: string | null;
  /** The one that was opened last: it can be taken hold of on the picture until another is, or something else is clicked. */
  chosenPiece: string | null;
  giveOut: boolean;
  /** Which desk the stage stands on. */
  desk: StageDeskName;
  /** Where in its film the scene is shown on the reel, in seconds. */
  filmTime: number;
  /** How many pictures of the film were drawn and kept, so that they play at their speed; and whether the others are being made. */
  preview: { kept: number; making: boolean };
  /** From where the reel is seen instead of through the camera of its film; it is no part of the scene. */
  outside: Camera | null;
  /** What is changed on the reel becomes a key, also where nothing moves yet. */
  keeping: boolean;
  /** Keys that are chosen on the reel. */
  chosenKeys: readonly KeyAt[];
  /** Groups of lanes that are folded, by their keys. */
  foldedLanes: readonly string[];
  /** What gauges read at the step on show, by their ids. */
  readings: Readings;
  /** What the curves of charts are, by their ids. */
  curves: Curves;
  /** Curves that are being measured step by step, and those that were stopped on the way. */
  measuring: { done: number; cancel(): void } | { done: number; goOn(): void } | null;
  /** Gauge that is opened; what it is measured on is lit up on the stage. */
  openGauge: string | null;
  /** Width over height of the stage when the picture fills it. */
  stageAspect: number;
  /** Pointing at a part hides it at once. */
  peeling: boolean;
  /** The view turns about the eye, and goes on instead of coming nearer. */
  walking: boolean;
  /** The picture at rest is complete. */
  settled: boolean;
  /** A place that is pointed out on the picture, in the coordinates of the files. */
  pointedOut: [number, number, number] | null;
  /** An edit, by its key, may make a body of what is flat: then it is shown as one. */
  becomesBody: string | null;
  /** What is known of the picture at rest, for its preflight. */
  seen: PictureSeen | null;
  /** Long work under way can be cancelled. */
  busy: boolean;
  /** The next clicks on the picture choose something. */
  pointing: Pointing | null;
  /** Parts that were chosen by pointing; new lines show them. */
  selected: string[] | null;
  /** A part set that is being made; its cells are highlighted. */
  draft: SceneSet | null;
  /** What is shown in place of the scene while a choice is pointed at. */
  tried: Scene | null;
}

/** What clicks on the picture are for. */
export interface Pointing {
  says: string;
  /** Dragging goes on choosing, cell by cell. */
  brush?: boolean;
  /** True when the choice is complete. */
  onPick(picked: Picked, cell: number | null): boolean;
  /** Cells within a dragged rectangle, by part; without it, dragging turns the view. */
  onRectangle?(cells: Record<string, number[]>): void;
}

export const useDesk = create<DeskState>(() => ({}) as DeskState);

/** Who keeps the scene of the desk where that is one of several: it is told what is done, and shows what comes of it. */
export interface SceneKeeper {
  edit(change: Edit, key: string | null): void;
  showAt(at: { step?: number; phase?: number }): void;
  undo(): void;
  redo(): void;
}

let keeper: SceneKeeper | null = null;

/** @param by null where the desk keeps its scene by itself */
export function openDesk(
  given: Pick<DeskState, 'id' | 'runId' | 'run' | 'shots' | 'repairs'> & { document: Scene },
  by: SceneKeeper | null = null,
): void {
  keeper = by;
  const { document, ...rest } = given;
  const last = rest.run.steps.length - 1;
  const step = Math.min(document.step, last);
  const onward = document.step < last ? document.onward : 0;
  useDesk.setState({
    ...rest,
    history: SceneHistory.of({ ...document, step, onward }),
    playing: false,
    plays: 'steps',
    rate: Math.min(24, Math.max(2, Math.round(rest.run.steps.length / 6))),
    save: { kind: 'saved' },
    trouble: null,
    openLayer: null,
    openWords: null,
    openPiece: null,
    chosenPiece: null,
    giveOut: false,
    desk: 'stage',
    filmTime: 0,
    outside: null,
    preview: { kept: 0, making: false },
    keeping: false,
    chosenKeys: [],
    foldedLanes: [],
    readings: {},
    curves: {},
    measuring: null,
    openGauge: null,
    stageAspect: 1.5,
    peeling: false,
    walking: false,
    settled: false,
    seen: null,
    news: {},
    grids: {},
    spreads: [],
    pointedOut: null,
    shown: runBounds(rest.run),
    flat: isFlat(runBounds(rest.run)),
    becomesBody: null,
    busy: false,
    pointing: null,
    selected: null,
    draft: null,
    tried: null,
  });
}

/** A scene as it is seen from outside of its film, where it is. */
export const seenFrom = (scene: Scene, outside: Camera | null): Scene =>
  outside ? { ...scene, camera: outside } : scene;

type Showing = Pick<DeskState, 'desk' | 'filmTime' | 'history' | 'run' | 'outside'>;

let shownLast: (Omit<Showing, 'desk' | 'history'> & { of: Scene; scene: Scene }) | null = null;

/** The scene that is shown and edited: on the reel as its film shows it at the time that is looked at. */
export function shownScene({ desk, filmTime, history, run, outside }: Showing): Scene {
  const of = history.scene;
  if (desk !== 'reel') return of;
  const last = shownLast;
  if (last?.of === of && last.filmTime === filmTime && last.run === run && last.outside === outside)
    return last.scene;
  const inFilm = sceneAt(of, run, filmTime);
  const scene = seenFrom(inFilm, outside);
  shownLast = { of, filmTime, run, outside, scene };
  return scene;
}

/** The scene as it is shown. */
export const useScene = (): Scene => useDesk(shownScene);
/** The scene as it is kept, without what its film makes of it. */
export const useKeptScene = (): Scene => useDesk((s) => s.history.scene);
export const useRun = (): RunDescription => useDesk((s) => s.run);

/** How the values of what uses a scale are spread over what is shown; null while that is not known. */
export const useSpread = (scale: Scale): Spread | null => {
  const scene = useScene();
  return spreadOfScale(
    scale,
    scene,
    useDesk((s) => s.spreads),
  );
};

/** A scale as it is on show. */
export function useSettled(scale: Scale): CompiledScale {
  const { step } = useScene();
  return settleScale(scale, useRun(), step, useSpread(scale));
}

export const sceneNow = (): Scene => shownScene(useDesk.getState());
export const keptSceneNow = (): Scene => useDesk.getState().history.scene;

/** What edits go to while a choice is only tried out. */
let trial: Scene | null = null;

/**
 * Shows the scene as it would be after some edits, without making them; null ends that.
 *
 * @param work makes the edits as it would in earnest
 */
export function tryOut(work: (() => void) | null): void {
  if (!work) {
    useDesk.setState({ tried: null });
    return;
  }
  trial = sceneNow();
  try {
    work();
    useDesk.setState({ tried: trial });
  } finally {
    trial = null;
  }
}

/**
 * Sends an edit to the scene.
 *
 * @param key edits in a row with the same key are one step of undo
 */
export function edit(change: Edit, key: string | null = null): void {
  if (trial) {
    trial = applyEdit(trial, change);
    return;
  }
  if (!allBounded(change)) {
    useDesk.setState({ trouble: 'That number is too large to be kept. Choose one within ±1e30.' });
    return;
  }
  if (keeper) {
    useDesk.setState({ tried: null });
    keeper.edit(change, key);
  } else
    useDesk.setState((s) => seenFromOutside(s, change) ?? { history: edited(s, change, key), tried: null });
}

/** Shows the scene as its keeper has it now. */
export const showKept = (scene: Scene): void => useDesk.setState({ history: SceneHistory.of(scene) });

/** While the reel is seen from outside, that view is turned and moved, not the camera of the film; null for other edits. */
function seenFromOutside({ desk, outside }: DeskState, change: Edit): Pick<DeskState, 'outside'> | null {
  if (desk !== 'reel' || !outside) return null;
  if (change.type !== 'setting.change' || change.thing !== 'camera') return null;
  return { outside: { ...outside, ...(change.change as Partial<Camera>) } };
}

/** On the reel what has keys gets one at the time that is looked at. */
function edited(
  { desk, history, run, filmTime, keeping }: DeskState,
  change: Edit,
  key: string | null,
): SceneHistory {
  if (desk !== 'reel') return history.apply(change, key);
  return history.to(editedInFilm(history.scene, run, filmTime, change, keeping), sayEdit(change), key);
}

/** Shows the film at a time. */
export function goToFilmTime(seconds: number): void {
  useDesk.setState((s) => ({
    filmTime: Math.max(0, Math.min(s.history.scene.reel.seconds, seconds)),
  }));
}

export function undo(): void {
  if (keeper) {
    keeper.undo();
    return;
  }
  const { history } = useDesk.getState();
  history.besideUndo?.undo();
  useDesk.setState({ history: history.undo() });
}

export function redo(): void {
  if (keeper) {
    keeper.redo();
    return;
  }
  const { history } = useDesk.getState();
  history.besideRedo?.redo();
  useDesk.setState({ history: history.redo() });
}

export function goToStep(step: number): void {
  const { run } = useDesk.getState();
  const within = Math.max(0, Math.min(run.steps.length - 1, Math.round(step)));
  showAt({ step: within });
}

/** Other ends of the stretch of the steps; one after the other they are undone together. */
export const setStretch = (change: Stretch): void =>
  edit({ type: 'setting.change', thing: 'stretch', change }, 'stretch of the steps');

export const goToPhase = (phase: number): void => showAt({ phase: Math.max(0, Math.min(360, phase)) });

function showAt(at: { step?: number; phase?: number }): void {
  if (keeper) keeper.showAt(at);
  else useDesk.setState((s) => ({ history: s.history.showAt(at) }));
}

/** Camera moves of one gesture are one step of undo. */
export const moveCamera = (camera: Camera, gesture: string): void =>
  edit({ type: 'setting.change', thing: 'camera', change: camera }, gesture);

/** Width over height of the picture: its own shape, or that of the stage. */
export const pictureAspect = (s: Pick<DeskState, 'history' | 'stageAspect'>): number =>
  s.history.scene.picture.aspect ?? s.stageAspect;

/** Opens the settings of a piece of scenery, which can then be taken hold of. */
export const openScenery = (id: string): void => useDesk.setState({ openPiece: id, chosenPiece: id });
