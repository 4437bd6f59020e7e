import type { Finding } from '#core/preflight/rule.ts';
import { FoldedFindings } from '#web/desks/preflight/FoldedFindings.tsx';
import { SceneFindings } from '#web/desks/preflight/SceneFindings.tsx';

/** What should be known before something of the scene leaves the house; nothing while there is nothing. */
export const BeforeItLeaves = ({ findings }: { findings: readonly Finding[] }) =>
  findings.length > 0 && (
    <FoldedFindings findings={findings}>
      <SceneFindings findings={findings} />
    </FoldedFindings>
  );
