import { Send } from 'lucide-react';
import { useEffect, useState } from 'react';
import { openFindings } from '#core/preflight/registry.ts';
import { type ReportFormat, reportFormats } from '#core/report/report-formats.ts';
import { ask } from '#engine/server-requests.ts';
import { sayFindings } from '#web/desks/preflight/Findings.tsx';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { saveAnswer } from '#web/desks/shared/save-answer.ts';
import { useWork } from '#web/desks/shared/work-state.ts';
import { Chooser } from '#web/desks/stage/Chooser.tsx';
import type { PageAhead } from '#web/server/reports/report-file.ts';
import { useReportFindings } from './ReportPreflight.tsx';
import { standingOf, useReport, useReportDesk } from './report-store.ts';
import { sayPageAhead } from './say-page-ahead.ts';

/** How large the page will be, and how many of its figures can be turned; nothing while that is not known. */
function SizeOfPage({ id }: { id: string }) {
  const [ahead, setAhead] = useState<PageAhead | null>(null);
  const isSaved = useReportDesk((s) => s.save.kind === 'saved');
  const isLooking = useReportDesk((s) => s.looking !== null);
  useEffect(() => {
    let gone = false;
    if (isSaved)
      ask<PageAhead>(`/api/reports/${id}/file`).then(
        (found) => !gone && setAhead(found),
        () => undefined,
      );
    return () => {
      gone = true;
    };
  }, [id, isSaved, isLooking]);
  return ahead && <>. {sayPageAhead(ahead)}</>;
}

/** The report as a file. */
export function GiveReport({ id }: { id: string }) {
  const { sources } = useReport();
  const now = useReportDesk((s) => s.now);
  const looking = useReportDesk((s) => s.looking);
  const isSaved = useReportDesk((s) => s.save.kind === 'saved');
  const { work, problem, run } = useWork();
  const open = openFindings(useReportFindings());
  const stale = sources.filter((s) => standingOf(s, { now }) === 'stale').length;
  const give = ({ id: format, name, type }: ReportFormat) =>
    run(
      `Writing the ${name}`,
      (_, signal) => saveAnswer(`/api/reports/${id}/file`, { format }, type, signal),
      { measured: false },
    );
  return (
    <Chooser
      word={
        <>
          <Send size={15} /> Give out
        </>
      }
      look="act"
      label="Give the report out"
      side="bottom"
      wide
    >
      <div className="flex flex-col gap-3">
        {stale > 0 && (
          <p className="text-sm text-warn">
            {stale === 1 ? 'One figure or table is' : `${stale} figures and tables are`} out of date: refresh
            first, or give out what was seen.
          </p>
        )}
        {open.length > 0 && (
          <p className={`text-sm ${open.some((f) => f.severity !== 'minor') ? 'text-warn' : 'text-soft'}`}>
            {sayFindings(open.length)} before it leaves: they stand above the page.
          </p>
        )}
        {looking && (
          <p className="text-sm text-warn">
            Figures are still being drawn; what is not there yet is given out as a draft.
          </p>
        )}
        {!isSaved && <p className="text-sm text-soft">A moment: the last change is being saved.</p>}
        {work ? (
          <Progress {...work} onCancel={work.cancel} />
        ) : (
          <ul className="flex flex-col">
            {reportFormats.map((format) => (
              <li key={format.id}>
                <button
                  type="button"
                  disabled={!isSaved}
                  className="flex w-full items-baseline gap-3 rounded-md px-2 py-1.5 text-left hover:bg-sunk disabled:opacity-50"
                  onClick={() => give(format)}
                >
                  <span className="w-32 shrink-0 font-medium">{format.name}</span>
                  <span className="text-sm text-soft">
                    {format.about}
                    {format.id === 'html' && <SizeOfPage id={id} />}
                  </span>
                </button>
              </li>
            ))}
            <li className="mt-1 border-t border-rule pt-1">
              <a
                href={`/api/reports/${id}/bundle`}
                download
                className="flex w-full items-baseline gap-3 rounded-md px-2 py-1.5 hover:bg-sunk"
              >
                <span className="w-32 shrink-0 font-medium">Report file</span>
                <span className="text-sm text-soft">
                  to be opened elsewhere, or written of other runs by the command line
                </span>
              </a>
            </li>
          </ul>
        )}
        {problem && <ProblemNote problem={problem} />}
      </div>
    </Chooser>
  );
}
