import { FilePlus2 } from 'lucide-react';
import { useState } from 'react';
import { readReportBundle } from '#core/report/report-bundle.ts';
import { ask } from '#engine/server-requests.ts';
import { DocumentList } from '#web/desks/shared/DocumentList.tsx';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { TopBar } from '#web/desks/shared/TopBar.tsx';
import { useWork } from '#web/desks/shared/work-state.ts';
import type { OpenedBundle } from '#web/server/reports/bundles.ts';
import type { ListedReport } from '#web/server/reports/kept-reports.ts';

/** Where reports are made and found again. */
export function ReportsDesk({ reports }: { reports: ListedReport[] }) {
  const [name, setName] = useState('');
  const [opened, setOpened] = useState<OpenedBundle | null>(null);
  const { problem, run: work } = useWork();
  const make = () =>
    work('Making the report', async () => {
      const { id } = await ask<{ id: string }>('/api/reports', {
        method: 'POST',
        json: { name: name.trim() || 'Report' },
      });
      location.href = `/report/${id}`;
    });
  const open = (file: File | undefined) =>
    file &&
    work('Opening the report', async () => {
      const bundle = readReportBundle(await file.text(), file.name);
      const found = await ask<OpenedBundle>('/api/reports/opened', {
        method: 'POST',
        json: { bundle, runs: null },
      });
      if (found.troubles.length > 0) setOpened(found);
      else location.href = `/report/${found.id}`;
    });
  return (
    <div className="flex h-screen flex-col overflow-hidden">
      <TopBar desk="report" stageHref={null} />
      <main className="flex-1 overflow-y-auto">
        <div className="mx-auto max-w-5xl px-8 py-9">
          <h1 className="font-book text-[34px] leading-tight font-medium">Tell it</h1>
          <p className="mt-2 max-w-[62ch] text-soft">
            A report is made of your shots, charts, numbers and tables. They stay linked to their scenes: when
            a run has changed, it says so, and shows before and after. The same content is told to engineers,
            customers and everybody else in their own words.
          </p>
          <div className="mt-7 grid grid-cols-[minmax(0,1fr)_380px] gap-9">
            <DocumentList
              title="Reports"
              kind="report"
              first={reports}
              address="/api/reports"
              page="/report"
              none="None yet: give the first a name beside."
              bin="Delete the report; its scenes and runs stay"
              says={({ shown }) => (shown === 1 ? '1 figure or table' : `${shown} figures and tables`)}
            />
            <form
              aria-label="New report"
              className="card flex flex-col gap-3 self-start p-4"
              onSubmit={(e) => {
                e.preventDefault();
                void make();
              }}
            >
              <h2 className="head">New report</h2>
              <input
                aria-label="Title of the new report"
                className="field w-full"
                placeholder="Title"
                value={name}
                onChange={(e) => setName(e.target.value)}
              />
              <button type="submit" className="act self-start">
                <FilePlus2 size={15} /> Begin a report
              </button>
              <label className="quiet cursor-pointer self-start">
                Open a report file
                <input
                  type="file"
                  accept="application/json,.json"
                  className="sr-only"
                  onChange={(e) => void open(e.target.files?.[0])}
                />
              </label>
              {opened && (
                <div role="status" className="rounded-lg bg-accent-wash px-3 py-2">
                  <p>
                    <a href={`/report/${opened.id}`} className="word">
                      The report
                    </a>{' '}
                    is there, but not all it shows:
                  </p>
                  <ul className="list-disc pl-5">
                    {opened.troubles.map((text) => (
                      <li key={text}>{text}</li>
                    ))}
                  </ul>
                </div>
              )}
              {problem && <ProblemNote problem={problem} />}
            </form>
          </div>
        </div>
      </main>
    </div>
  );
}
