import { create } from 'zustand';
import { withDifferences } from '#core/model/document-changes.ts';
import { History } from '#core/model/history.ts';
import type { FileProblem } from '#core/model/read-error.ts';
import type { SeenFacts } from '#core/report/compose.ts';
import type { SourceFacts } from '#core/report/facts.ts';
import { type Report, type ReportSource, reportForm } from '#core/report/report.ts';
import { type ReportEdit, reportEditsSaid, withReportEdit } from '#core/report/report-edits.ts';
import { DocumentSaver, type SaveState } from '#web/desks/shared/document-saver.ts';
import type { SeenForReport, SourceState } from '#web/server/reports/kept-reports.ts';
import type { PictureQuality } from '#web/server/reports/seen-store.ts';

/** Sources that are being looked at. */
export interface Looking {
  sources: readonly string[];
  done: number | null;
  remaining: number | null;
  ahead: number;
  /** How well pictures are drawn by it. */
  quality: PictureQuality;
  cancel(): void;
  /** Lets others go before, and tells when it has. */
  makeWay(): Promise<void>;
}

interface ReportState {
  id: string;
  history: History<Report>;
  /** What was seen, by keys. */
  facts: ReadonlyMap<string, SourceFacts>;
  /** How well the pictures are drawn that there are, by keys. */
  pictured: ReadonlyMap<string, PictureQuality>;
  /** Keys of those that can be turned, or are known to be too large for it. */
  living: ReadonlySet<string>;
  /** What is there now, by sources; empty while that is not known. */
  now: Readonly<Record<string, SourceState>>;
  /** Why a source could not be looked at. */
  problems: Readonly<Record<string, FileProblem>>;
  looking: Looking | null;
  /** The block whose settings are open. */
  chosen: string | null;
  save: SaveState<Report>;
}

export const useReportDesk = create<ReportState>()(() => ({
  id: '',
  history: null as never,
  facts: new Map(),
  pictured: new Map(),
  living: new Set(),
  now: {},
  problems: {},
  looking: null,
  chosen: null,
  save: { kind: 'saved' },
}));

export const useReport = (): Report => useReportDesk((s) => s.history.now);
export const reportNow = (): Report => useReportDesk.getState().history.now;

/** @param key joins it with the edit before when both carry the same key */
export function editReport(edit: ReportEdit, key: string | null = null): void {
  useReportDesk.setState(({ history }) => ({
    history: history.to(withReportEdit(history.now, edit), reportEditsSaid[edit.type], key),
  }));
}

/** The same in every state there was: what nobody did, nobody takes back. */
export function editEverywhere(edit: ReportEdit): void {
  useReportDesk.setState(({ history }) => ({
    history: history.everywhere((state) => withReportEdit(state, edit)),
  }));
}

/** Another state of the whole report; undo takes it back. */
export const replaceReport = (report: Report): void =>
  useReportDesk.setState(({ history }) => ({ history: history.to(report, 'bring back an earlier state') }));

export const undoReport = (): void => useReportDesk.setState((s) => ({ history: s.history.undo() }));
export const redoReport = (): void => useReportDesk.setState((s) => ({ history: s.history.redo() }));

export const choose = (chosen: string | null): void => useReportDesk.setState({ chosen });

/** What was seen of the sources, or why nothing was. */
export function seenNow(
  { sources }: Pick<Report, 'sources'>,
  { facts, problems, looking }: Pick<ReportState, 'facts' | 'problems' | 'looking'>,
): SeenFacts {
  return new Map(
    sources.map(({ id, seen }) => {
      const found = seen === null ? undefined : facts.get(seen);
      const problem = problems[id];
      const why = looking?.sources.includes(id)
        ? 'being looked at …'
        : problem
          ? `${problem.reason}. ${problem.remedy}`
          : 'not looked at yet';
      return [id, found ?? why] as const;
    }),
  );
}

/** How what is shown of a source stands to what is there now. */
export function standingOf(
  { id, seen }: ReportSource,
  { now }: Pick<ReportState, 'now'>,
): 'fresh' | 'stale' | 'gone' | 'unknown' {
  const state = now[id];
  if (!state || seen === null) return 'unknown';
  if ('gone' in state) return 'gone';
  return state.key === seen ? 'fresh' : 'stale';
}

/** Where the best picture there is of what was seen is found; null where there is none. */
export function pictureAddress(key: string, { pictured }: Pick<ReportState, 'pictured'>): string | null {
  const quality = pictured.get(key);
  return quality === undefined ? null : `/api/seen/${key}${quality === 'draft' ? '.draft' : ''}.png`;
}

/** Begins the desk; what is edited is saved by itself until it is left. */
export function openReportDesk(
  id: string,
  document: Report,
  revision: number,
  { facts, pictured, living }: SeenForReport,
): { saver: DocumentSaver<Report>; close(): void } {
  useReportDesk.setState({
    id,
    history: History.of(document),
    facts: new Map(Object.entries(facts)),
    pictured: new Map(Object.entries(pictured)),
    living: new Set(living),
    now: {},
    problems: {},
    looking: null,
    chosen: null,
    save: { kind: 'saved' },
  });
  const saver = new DocumentSaver<Report>(
    {
      address: `/api/reports/${id}`,
      form: reportForm,
      now: reportNow,
      adopt: (changes) =>
        useReportDesk.setState((s) => ({
          history: s.history.everywhere((state) => withDifferences(reportForm, state, changes).document),
        })),
      told: (save) => useReportDesk.setState({ save }),
    },
    document,
    revision,
  );
  return { saver, close: saver.savesAlong(useReportDesk, (s) => s.history.now) };
}
