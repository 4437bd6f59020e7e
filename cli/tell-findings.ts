import type { RunDescription } from '#core/model/run.ts';
import { filmPictures } from '#core/motion/reel-facts.ts';
import { openFindings, preflight } from '#core/preflight/registry.ts';
import type { Finding } from '#core/preflight/rule.ts';
import type { Scene } from '#core/scene/document.ts';

/** What is so, what to do or why it is meant to be so, and the rule. */
export const sayFinding = ({ says, remedy, rule, waived }: Finding): string =>
  `${says} ${waived === null ? remedy : `Meant to be so: ${waived}`} [${rule}]`;

/** What the preflight finds in the film of a scene before it is drawn. */
export function filmFindings(scene: Scene, run: RunDescription): Finding[] {
  const { count, rate } = filmPictures(scene);
  return preflight({ film: { scene, run, count, rate, ofReel: true, luminances: null } }, scene.checks);
}

/** Findings of something that is given out, such as of `step 3`; without a name where there is just one. */
export interface FindingsOf {
  of: string;
  findings: readonly Finding[];
}

/**
 * What whoever gives something out should know of it, a line each: nothing that is waived or only could be better, and what
 * several have in common once.
 */
export function notesOf(given: readonly FindingsOf[]): string[] {
  const told = new Map<string, string[]>();
  for (const { of, findings } of given)
    for (const finding of openFindings(findings)) {
      if (finding.severity === 'minor') continue;
      const says = sayFinding(finding);
      const where = told.get(says) ?? [];
      if (!where.includes(of)) where.push(of);
      told.set(says, where);
    }
  return [...told].map(([says, where]) =>
    given.length > 1 ? `${where.length === given.length ? 'everywhere' : where.join(', ')}: ${says}` : says,
  );
}

/** The same on the stream of errors, where no program reads results. */
export function noteFindings(given: readonly FindingsOf[]): void {
  for (const note of notesOf(given)) console.error(`note: ${note}`);
}
