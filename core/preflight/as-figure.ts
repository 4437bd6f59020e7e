import type { Waiver } from '../scene/things/checks.ts';
import type { Finding } from './rule.ts';

/** What a figure need not say itself, as its caption does. */
const SAID_BESIDE = ['no title'];

/**
 * What is found in a scene, as something of a figure that shows it: it is mended where the scene is. What the scene waives
 * stays waived.
 *
 * @param waived beside what the scene waives
 */
export const asFigure = (
  findings: readonly Finding[],
  { id, name }: { id: string; name: string },
  waived: readonly Waiver[] = [],
): Finding[] =>
  findings
    .filter(({ rule }) => !SAID_BESIDE.includes(rule))
    .map(({ mend: _, ...finding }) => {
      const of = `${name}, ${finding.place.name}`;
      const waiver = waived.find((w) => w.rule === finding.rule && w.of === of);
      return {
        ...finding,
        place: { kind: 'figure', id, name: of },
        says: `${name}. ${finding.says}`,
        waived: finding.waived ?? waiver?.reason ?? null,
      };
    });
