import { useDeferredValue, useMemo } from 'react';
import { composeReport, type SeenFacts } from '#core/report/compose.ts';
import type { ComposedReport } from '#core/report/composed.ts';
import { seenNow, useReport, useReportDesk } from './report-store.ts';

/** What was seen of the sources of the report on the desk. */
export function useSeen(): SeenFacts {
  const { sources } = useReport();
  const facts = useReportDesk((s) => s.facts);
  const problems = useReportDesk((s) => s.problems);
  const looking = useReportDesk((s) => s.looking);
  return useMemo(
    () => seenNow({ sources }, { facts, problems, looking }),
    [sources, facts, problems, looking],
  );
}

/** The report as its reader reads it; where it is long, it comes a little after what is typed. */
export function useComposed(): ComposedReport {
  const report = useDeferredValue(useReport());
  const seen = useSeen();
  return useMemo(() => composeReport(report, seen), [report, seen]);
}
