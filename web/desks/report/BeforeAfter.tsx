import { useState } from 'react';
import { changesOfFacts } from '#core/report/changed-facts.ts';
import type { SourceFacts } from '#core/report/facts.ts';
import type { ReportSource } from '#core/report/report.ts';
import { editReport, pictureAddress, useReportDesk } from './report-store.ts';

/** What has changed of some sources, each as before and after. */
export function BeforeAfter({ sources }: { sources: readonly ReportSource[] }) {
  const [open, setOpen] = useState(false);
  const facts = useReportDesk((s) => s.facts);
  return (
    <section aria-label="What has changed">
      <div className="flex items-center gap-3">
        <p className="min-w-0 flex-1">
          {sources.length === 1 ? `${sources[0].name} was` : `${sources.length} figures and tables were`}{' '}
          refreshed.
        </p>
        <button type="button" className="quiet h-8" aria-expanded={open} onClick={() => setOpen(!open)}>
          Before and after
        </button>
      </div>
      {open && (
        <ul className="mt-2 flex max-h-[46vh] flex-col gap-4 overflow-y-auto">
          {sources.map((source) => (
            <li key={source.id} className="rounded-lg border border-rule bg-sheet p-3">
              <div className="mb-2 flex items-center gap-3">
                <h3 className="min-w-0 flex-1 truncate font-medium">{source.name}</h3>
                <button
                  type="button"
                  className="quiet h-7 text-sm"
                  onClick={() => editReport({ type: 'source.compared', id: source.id })}
                >
                  Seen
                </button>
              </div>
              <div className="grid grid-cols-2 gap-3">
                <Side title="Before" name={source.name} at={source.before} />
                <Side title="After" name={source.name} at={source.seen} />
              </div>
              <Changes before={facts.get(source.before ?? '')} after={facts.get(source.seen ?? '')} />
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function Side({ title, name, at }: { title: string; name: string; at: string | null }) {
  const address = useReportDesk((s) => (at === null ? null : pictureAddress(at, s)));
  return (
    <figure className="min-w-0">
      <figcaption className="head mb-1">{title}</figcaption>
      {address && <img src={address} alt={`${name}, ${title.toLowerCase()}`} className="w-full rounded" />}
    </figure>
  );
}

function Changes({ before, after }: { before: SourceFacts | undefined; after: SourceFacts | undefined }) {
  if (!before || !after) return null;
  const changes = changesOfFacts(before, after);
  if (changes.length === 0) return <p className="mt-2 text-soft">Words and numbers are the same.</p>;
  return (
    <table className="mt-2 w-full text-sm">
      <thead className="sr-only">
        <tr>
          <th>What</th>
          <th>Before</th>
          <th>After</th>
        </tr>
      </thead>
      <tbody>
        {changes.map(({ what, before: was, after: is }) => (
          <tr key={what} className="border-t border-rule align-top">
            <th scope="row" className="py-1 pr-3 text-left font-medium">
              {what}
            </th>
            <td className="py-1 pr-3 text-soft">{was}</td>
            <td className="py-1">{is}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
