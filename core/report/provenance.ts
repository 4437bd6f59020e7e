import { sayNumber } from '../language/sentence.ts';
import { PROGRAM_VERSION } from '../model/program-version.ts';
import { ruleById } from '../preflight/registry.ts';
import type { ProvenanceEntry } from './composed.ts';
import type { SourceFacts } from './facts.ts';
import type { Report } from './report.ts';

/** Where everything in a report comes from: files with their hashes, steps, scales, factors. */
export function provenanceOf(
  { sources, checks }: Pick<Report, 'sources' | 'checks'>,
  factsOf: (source: string) => SourceFacts | null,
): ProvenanceEntry[] {
  const entry = (label: string, values: string[]) => (values.length > 0 ? [{ label, values }] : []);
  const meant = checks.waived.map(
    ({ rule, of, reason }) => `${of}, ${ruleById(rule)?.name ?? rule}: ${reason}`,
  );
  const ofSources = sources.flatMap(({ id, name }): ProvenanceEntry[] => {
    const facts = factsOf(id);
    if (!facts) return [];
    if (facts.kind === 'set')
      return [{ source: name, facts: [{ label: 'Runs', values: facts.rows.map((r) => r.run) }] }];
    const { origin } = facts;
    return [
      {
        source: name,
        facts: [
          ...entry('Run', [facts.run.name]),
          ...entry(
            'Files',
            origin.files.map(({ name: file, bytes, sha256 }) =>
              [file, bytes === null ? null : `${bytes} bytes`, sha256 && `SHA-256 ${sha256}`]
                .filter((part) => part !== null)
                .join(', '),
            ),
          ),
          ...entry('Steps', [origin.steps]),
          ...entry('Shown', origin.moment === null ? [] : [origin.moment]),
          ...entry(
            'Colour scales',
            origin.scales.map(
              (s) =>
                `${s.name} from ${sayNumber(s.low)} to ${sayNumber(s.high)}${s.unit ? ` ${s.unit}` : ''} on ${s.map}`,
            ),
          ),
          ...entry('Stated in the picture', [...origin.stated]),
          ...entry('Not in this run', [...facts.lacking]),
          ...entry(
            MEANT,
            facts.findings.flatMap((f) => (f.waived === null ? [] : [`${f.says} ${f.waived}`])),
          ),
        ],
      },
    ];
  });
  if (ofSources.length + meant.length === 0) return [];
  const ofReport = [...entry('Made with', [`Dresser ${PROGRAM_VERSION}`]), ...entry(MEANT, meant)];
  return [...ofSources, { source: 'The report', facts: ofReport }];
}

/** What the preflight finds and somebody has given a reason for. */
const MEANT = 'Meant to be so';
