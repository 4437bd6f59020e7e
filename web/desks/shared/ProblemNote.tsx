import { TriangleAlert } from 'lucide-react';
import type { FileProblem } from '#core/model/read-error.ts';

const sentence = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** What went wrong, where, and what to do. Everything from files is shown as plain text. */
export function ProblemNote({ problem }: { problem: FileProblem }) {
  return (
    <div
      role="alert"
      className="flex gap-3 rounded-lg border border-accent/40 bg-accent-wash/60 px-3.5 py-2.5"
    >
      <TriangleAlert size={17} className="mt-0.5 shrink-0 text-accent" />
      <div className="min-w-0">
        <p className="font-medium break-words">
          {problem.file && <span className="font-semibold">{problem.file}: </span>}
          {sentence(problem.reason)}
        </p>
        <p className="text-soft">
          Where: {problem.where}. <span className="text-ink">{problem.remedy}</span>
        </p>
      </div>
    </div>
  );
}
