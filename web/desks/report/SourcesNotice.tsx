import { RefreshCw } from 'lucide-react';
import { sayList } from '#core/language/sentence.ts';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { BeforeAfter } from './BeforeAfter.tsx';
import { lookAt } from './look-at-sources.ts';
import { standingOf, useReport, useReportDesk } from './report-store.ts';

/** What is under way, what is out of date, and what has changed, above the page. */
export function SourcesNotice() {
  const { sources } = useReport();
  const now = useReportDesk((s) => s.now);
  const looking = useReportDesk((s) => s.looking);
  const stale = sources.filter((s) => standingOf(s, { now }) === 'stale');
  const gone = sources.filter((s) => standingOf(s, { now }) === 'gone');
  const changed = sources.filter((s) => s.before !== null);
  if (!looking && stale.length + gone.length + changed.length === 0) return null;
  const refresh = (): void => void lookAt(stale.map((s) => s.id));
  return (
    <div className="flex flex-col gap-2 border-b border-rule px-5 py-2.5">
      {looking && (
        <Progress
          label={
            looking.sources.length === 1
              ? `${looking.quality === 'final' ? 'Drawing well' : 'Drawing'} ${sources.find((s) => s.id === looking.sources[0])?.name ?? ''}`
              : `${looking.quality === 'final' ? 'Drawing well' : 'Drawing'} ${looking.sources.length} figures and tables`
          }
          done={looking.done}
          remaining={looking.remaining}
          ahead={looking.ahead}
          onCancel={looking.cancel}
        />
      )}
      {stale.length > 0 && looking?.quality !== 'draft' && (
        <div className="flex items-center gap-3" role="status">
          <p className="min-w-0 flex-1">
            {saidNames(stale.map((s) => s.name))} changed since {stale.length === 1 ? 'it was' : 'they were'}{' '}
            drawn.
          </p>
          <button type="button" className="act h-8" onClick={refresh}>
            <RefreshCw size={14} /> {stale.length === 1 ? 'Refresh' : `Refresh all ${stale.length}`}
          </button>
        </div>
      )}
      {gone.length > 0 && (
        <p role="status" className="text-warn">
          {saidNames(gone.map((s) => s.name))} {gone.length === 1 ? 'is' : 'are'} no longer there: the report
          shows what was seen last.
        </p>
      )}
      {changed.length > 0 && <BeforeAfter sources={changed} />}
    </div>
  );
}

/** More names than these are counted. */
const NAMED = 3;

const saidNames = (names: string[]): string =>
  names.length > NAMED ? `${names.length} figures and tables` : sayList(names);
