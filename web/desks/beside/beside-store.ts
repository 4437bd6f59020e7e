import { create } from 'zustand';
import { type Difference, differenceOf } from '#core/beside/difference.ts';
import type { ScaledPane } from '#core/beside/shared-scales.ts';
import {
  pairOf,
  type ScenePane,
  type SideBySide,
  scenePanes,
  sideBySideForm,
} from '#core/beside/side-by-side.ts';
import { type SideEdit, saySideEdit, withSideEdit } from '#core/beside/side-edits.ts';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { withDifferences } from '#core/model/document-changes.ts';
import { History } from '#core/model/history.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { Scene } from '#core/scene/document.ts';
import { endsOfScales } from '#core/scene/scale-ends.ts';
import { DocumentSaver, type SaveState } from '#web/desks/shared/document-saver.ts';
import type { OnShow } from '#web/desks/stage/scene-feed.ts';

/** What is on show in a pane, with the run as it is known for it. */
export interface PaneOnShow extends OnShow {
  run: RunDescription;
}

interface BesideState {
  history: History<SideBySide>;
  /** Those of the panes, by their ids, as far as they are there. */
  runs: ReadonlyMap<string, RunDescription>;
  /** The pane whose lines are read and edited. */
  chosen: string | null;
  /** By the ids of panes. */
  onShow: Readonly<Record<string, PaneOnShow>>;
  troubles: Readonly<Record<string, string>>;
  busy: Readonly<Record<string, boolean>>;
  playing: boolean;
  save: SaveState<SideBySide>;
}

const nothingYet = (): Omit<BesideState, 'history'> => ({
  runs: new Map(),
  chosen: null,
  onShow: {},
  troubles: {},
  busy: {},
  playing: false,
  save: { kind: 'saved' },
});

export const useBeside = create<BesideState>()(() => ({ ...nothingYet(), history: null as never }));

export const useSide = (): SideBySide => useBeside((s) => s.history.now);
export const sideNow = (): SideBySide => useBeside.getState().history.now;

/** @param key joins it with the edit before when both carry the same key */
export function editSide(edit: SideEdit, key: string | null = null): void {
  useBeside.setState(({ history, runs }) => {
    const next = withSideEdit(history.now, edit, runs);
    // What time is looked at is no step of undo.
    return {
      history: edit.type === 'side.step' ? history.shownAs(next) : history.to(next, saySideEdit(edit), key),
    };
  });
}

export const undoSide = (): void => useBeside.setState((s) => ({ history: s.history.undo() }));
export const redoSide = (): void => useBeside.setState((s) => ({ history: s.history.redo() }));

/** The pane whose lines are edited; null where there is no scene. */
export const chosenPane = ({
  history,
  chosen,
}: Pick<BesideState, 'history' | 'chosen'>): ScenePane | null => {
  const all = scenePanes(history.now);
  return all.find((p) => p.id === chosen) ?? all[0] ?? null;
};

/** What a pane is called. */
export const titleOf = (pane: ScenePane, runs: BesideState['runs']): string =>
  pane.title ?? runs.get(pane.run)?.name ?? 'a run that is gone';

/**
 * The scenes that are on show, with where their scales begin and end by themselves.
 *
 * @param onShow what is known of each, by the ids of the panes
 */
export const scaledPanes = (
  side: SideBySide,
  runs: BesideState['runs'],
  onShow: BesideState['onShow'],
): ScaledPane[] =>
  scenePanes(side).flatMap((pane) => {
    const shown = onShow[pane.id];
    if (!shown) return [];
    const ends = endsOfScales(pane.scene, shown.run, shown.spreads);
    const shares = side.links.scales && !pane.free.includes('scales');
    return [{ id: pane.id, title: titleOf(pane, runs), scene: pane.scene, run: shown.run, ends, shares }];
  });

/**
 * How much the two that are compared differ, as they are drawn; why that cannot be told, in words.
 *
 * @param drawn their scenes with the scales they share
 */
export function differenceIn(
  side: SideBySide,
  runs: BesideState['runs'],
  drawn: ReadonlyMap<string, Scene>,
): Difference | string {
  const [first, second] = (pairOf(side) ?? []).map((pane) => {
    const run = runs.get(pane.run);
    return run && { scene: drawn.get(pane.id) ?? pane.scene, run, id: pane.run };
  });
  if (!first || !second) return 'Two scenes are needed to show how they differ.';
  return differenceOf(first, second, side.show.quantity);
}

/** Takes runs in, with the measures that every mesh has. */
export const addRuns = (found: Readonly<Record<string, RunDescription>>): void =>
  useBeside.setState(({ runs }) => ({
    runs: new Map([
      ...runs,
      ...Object.entries(found).map(([id, run]) => [id, withOfferedQuantities(run)] as const),
    ]),
  }));

/** Begins the desk; what is edited is saved by itself until it is left. */
export function openBeside(
  id: string,
  document: SideBySide,
  revision: number,
  runs: Readonly<Record<string, RunDescription>>,
): { saver: DocumentSaver<SideBySide>; close(): void } {
  useBeside.setState({ ...nothingYet(), history: History.of(document) });
  addRuns(runs);
  const saver = new DocumentSaver<SideBySide>(
    {
      address: `/api/beside/${id}`,
      form: sideBySideForm,
      now: sideNow,
      adopt: (changes) =>
        useBeside.setState((s) => ({
          history: s.history.everywhere((state) => withDifferences(sideBySideForm, state, changes).document),
        })),
      told: (save) => useBeside.setState({ save }),
    },
    document,
    revision,
  );
  return { saver, close: saver.savesAlong(useBeside, (s) => s.history.now) };
}
