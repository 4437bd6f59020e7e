import { sourcesToSee } from '#core/report/report.ts';
import { ask, followJob, problemFrom } from '#engine/server-requests.ts';
import type { SourceState } from '#web/server/reports/kept-reports.ts';
import type { Seen, SeeOrder } from '#web/server/reports/see-sources.ts';
import type { PictureQuality } from '#web/server/reports/seen-store.ts';
import { askSeen } from './ask-seen.ts';
import {
  editEverywhere,
  editReport,
  type Looking,
  reportNow,
  standingOf,
  useReportDesk,
} from './report-store.ts';

/** Asks what is there now of everything that the report shows. */
export async function askStanding(): Promise<void> {
  const { id } = useReportDesk.getState();
  const now = await ask<Record<string, SourceState>>(`/api/reports/${id}/sources`).catch(() => null);
  if (now && useReportDesk.getState().id === id) useReportDesk.setState({ now });
}

/** Sources that nobody has looked at yet, or whose picture is shown and not there. */
function unseenSources(): string[] {
  const report = reportNow();
  const { facts, pictured, problems } = useReportDesk.getState();
  return sourcesToSee(report)
    .filter((shown, i) => {
      const { id, seen } = report.sources[i];
      if (problems[id]) return false;
      return seen === null || !facts.has(seen) || (shown.pictured && !pictured.has(seen));
    })
    .map((s) => s.id);
}

/** Sources whose picture is a draft, or cannot be turned yet; one that has changed meanwhile waits until somebody asks for it. */
function unfinishedSources(): string[] {
  const report = reportNow();
  const state = useReportDesk.getState();
  return sourcesToSee(report)
    .filter((shown, i) => {
      const source = report.sources[i];
      const seen = source.seen ?? '';
      return (
        shown.pictured &&
        !state.problems[source.id] &&
        (state.pictured.get(seen) === 'draft' || (shown.living && !state.living.has(seen))) &&
        standingOf(source, state) === 'fresh'
      );
    })
    .map((s) => s.id);
}

/** Looks at what is new, and then draws well what is drawn quickly; what is new goes before. */
export function goOnLooking(): void {
  const { looking } = useReportDesk.getState();
  const unseen = unseenSources();
  if (!looking) void (unseen.length > 0 ? lookAt(unseen) : lookAt(unfinishedSources(), 'final'));
  else if (looking.quality === 'final' && unseen.length > 0) looking.makeWay();
}

/** What was seen by keys that are not known here, such as those of an earlier state. */
async function fetchSeen(keys: readonly string[]): Promise<void> {
  const found = await askSeen(keys);
  useReportDesk.setState(({ facts, pictured, living }) => ({
    facts: new Map([...facts, ...Object.entries(found.facts)]),
    pictured: new Map([...pictured, ...Object.entries(found.pictured)]),
    living: new Set([...living, ...found.living]),
  }));
}

const OTHERS_FIRST = 'others first';

/** Looks at some sources as they are now, one such work at a time; what was shown before can be compared. */
export async function lookAt(ids: readonly string[], quality: PictureQuality = 'draft'): Promise<void> {
  const { looking: before } = useReportDesk.getState();
  if (ids.length === 0 || before?.quality === 'draft') return;
  await before?.makeWay();
  const report = reportNow();
  const chosen = report.sources.filter((s) => ids.includes(s.id));
  const abort = new AbortController();
  let ended = (): void => undefined;
  const end = new Promise<void>((done) => {
    ended = done;
  });
  const looking: Looking = {
    quality,
    sources: chosen.map((s) => s.id),
    done: null,
    remaining: null,
    ahead: 0,
    cancel: () => abort.abort(),
    makeWay() {
      abort.abort(OTHERS_FIRST);
      return end;
    },
  };
  useReportDesk.setState(({ problems }) => ({
    looking,
    problems: Object.fromEntries(Object.entries(problems).filter(([id]) => !ids.includes(id))),
  }));
  try {
    // What an earlier state has shown may still be kept.
    const { facts } = useReportDesk.getState();
    await fetchSeen(chosen.flatMap(({ seen }) => (seen !== null && !facts.has(seen) ? [seen] : [])));
    const order: SeeOrder = {
      sources: sourcesToSee(report).filter((s) => ids.includes(s.id)),
      pictures: report.pictures,
      quality,
    };
    const { job } = await ask<{ job: string }>('/api/seen', { method: 'POST', json: order });
    const seen = await followJob<Seen>(
      job,
      ({ done, remaining, ahead = 0 }) =>
        useReportDesk.setState({ looking: { ...looking, done, remaining, ahead } }),
      abort.signal,
    );
    await fetchSeen([...new Set(Object.values(seen.keys))]);
    takeOver(seen);
  } catch (error) {
    // What was finished before it made way is there.
    if (abort.signal.reason === OTHERS_FIRST) {
      await fetchSeen(chosen.flatMap(({ seen }) => seen ?? [])).catch(() => undefined);
      return;
    }
    const problem =
      (error as Error).name === 'AbortError'
        ? { file: '', reason: 'drawing was stopped', where: 'the report', remedy: 'Refresh to go on.' }
        : problemFrom(error);
    useReportDesk.setState(({ problems }) => ({
      problems: { ...problems, ...Object.fromEntries(looking.sources.map((id) => [id, problem])) },
    }));
  } finally {
    useReportDesk.setState({ looking: null });
    ended();
  }
}

function takeOver({ keys, problems }: Seen): void {
  const before = new Map(reportNow().sources.map((s) => [s.id, s.seen]));
  const first = Object.fromEntries(Object.entries(keys).filter(([id]) => before.get(id) === null));
  const again = Object.fromEntries(Object.entries(keys).filter(([id]) => before.get(id) !== null));
  if (Object.keys(first).length > 0) editEverywhere({ type: 'source.seen', seen: first });
  if (Object.entries(again).some(([id, key]) => before.get(id) !== key))
    editReport({ type: 'source.seen', seen: again });
  useReportDesk.setState((s) => ({
    problems: { ...s.problems, ...problems },
    now: { ...s.now, ...Object.fromEntries(Object.entries(keys).map(([id, key]) => [id, { key }])) },
  }));
}
