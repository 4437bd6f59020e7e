import { openFindings } from '#core/preflight/registry.ts';
import type { Finding } from '#core/preflight/rule.ts';
import { Findings, sayFindings } from '#web/desks/preflight/Findings.tsx';

/** What should be known before something leaves the house. */
export function BeforeItLeaves({ findings }: { findings: readonly Finding[] }) {
  const open = openFindings(findings);
  if (findings.length === 0) return null;
  const isMinor = open.every((f) => f.severity === 'minor');
  return (
    <details className="rounded-lg border border-rule px-3 py-2" data-testid="before-it-leaves">
      <summary className={`cursor-pointer text-sm ${isMinor ? 'text-soft' : 'font-medium text-warn'}`}>
        {open.length === 0 ? 'Nothing to know' : sayFindings(open.length)} before it leaves
      </summary>
      <div className="pt-3">
        <Findings findings={findings} />
      </div>
    </details>
  );
}
