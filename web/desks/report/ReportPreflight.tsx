import { useMemo } from 'react';
import type { Finding } from '#core/preflight/rule.ts';
import type { Report } from '#core/report/report.ts';
import { reportFindings } from '#core/report/report-preflight.ts';
import { Findings } from '#web/desks/preflight/Findings.tsx';
import { FoldedFindings } from '#web/desks/preflight/FoldedFindings.tsx';
import { InHouseField } from '#web/desks/preflight/InHouseField.tsx';
import { editReport, standingOf, useReport, useReportDesk } from './report-store.ts';
import { useComposed, useSeen } from './use-composed.ts';

/** What the preflight finds in the report on the desk. */
export function useReportFindings(): Finding[] {
  const report = useReport();
  const composed = useComposed();
  const seen = useSeen();
  const now = useReportDesk((s) => s.now);
  return useMemo(() => {
    const stale = report.sources.filter((s) => standingOf(s, { now }) === 'stale').map((s) => s.id);
    return reportFindings(report, composed, seen, new Set(stale));
  }, [report, composed, seen, now]);
}

/** What should be known before the report leaves the house, above its page. */
export function ReportPreflight() {
  const { waived, inHouse } = useReport().checks;
  const findings = useReportFindings();
  const change = (to: Partial<Report['checks']>): void => editReport({ type: 'report.checks', change: to });
  const keep = (to: typeof waived): void => change({ waived: to });
  return (
    <div
      className="max-h-[45%] shrink-0 overflow-y-auto border-b border-rule px-5 py-2"
      data-testid="preflight"
    >
      <FoldedFindings findings={findings}>
        <Findings
          findings={findings}
          waive={({ rule, place }, reason) => keep([...waived, { rule, of: place.name, reason }])}
          again={({ rule, place }) => {
            const others = waived.filter((w) => w.rule !== rule || w.of !== place.name);
            return others.length < waived.length ? () => keep(others) : null;
          }}
        />
        <div className="max-w-md text-sm">
          <InHouseField words={inHouse} onWords={(words) => change({ inHouse: words })} />
        </div>
      </FoldedFindings>
    </div>
  );
}
