import type { ReactNode } from 'react';
import { openFindings } from '#core/preflight/registry.ts';
import type { Finding } from '#core/preflight/rule.ts';
import { sayFindings } from './Findings.tsx';

interface Props {
  findings: readonly Finding[];
  children: ReactNode;
}

/** What should be known before something leaves the house: a line that unfolds. */
export function FoldedFindings({ findings, children }: Props) {
  const open = openFindings(findings);
  const isMinor = open.every((f) => f.severity === 'minor');
  return (
    <details className="rounded-lg border border-rule px-3 py-2" data-testid="before-it-leaves">
      <summary className={`cursor-pointer text-sm ${isMinor ? 'text-soft' : 'font-medium text-warn'}`}>
        {open.length === 0 ? 'Nothing to know' : sayFindings(open.length)} before it leaves
      </summary>
      <div className="flex flex-col gap-3 pt-3">{children}</div>
    </details>
  );
}
