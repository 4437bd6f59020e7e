import { useMemo } from 'react';
import { findingsOfSeveral, type SceneBesideOthers } from '#core/preflight/several-scenes.ts';
import { Findings } from './Findings.tsx';
import { FoldedFindings } from './FoldedFindings.tsx';

/** What should be known before scenes leave the house together; each is mended where it is. */
export function TogetherBeforeTheyLeave({ shown }: { shown: readonly SceneBesideOthers[] }) {
  const findings = useMemo(() => findingsOfSeveral(shown), [shown]);
  return (
    findings.length > 0 && (
      <FoldedFindings findings={findings}>
        <Findings findings={findings} />
      </FoldedFindings>
    )
  );
}
