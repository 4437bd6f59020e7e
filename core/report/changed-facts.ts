import { sayQuantity } from '../language/sentence.ts';
import type { FactScale, SceneFacts, SetFacts, SourceFacts } from './facts.ts';

/** Something that is otherwise than before; a dash where there is or was nothing. */
export interface FactChange {
  what: string;
  before: string;
  after: string;
}

const NOTHING = '–';

/** Everything that words and numbers say otherwise of a source than before. */
export function changesOfFacts(before: SourceFacts, after: SourceFacts): FactChange[] {
  if (before.kind === 'scene' && after.kind === 'scene')
    return differing(linesOfScene(before), linesOfScene(after));
  if (before.kind === 'set' && after.kind === 'set') return differing(linesOfSet(before), linesOfSet(after));
  return [{ what: 'What it is', before: before.kind, after: after.kind }];
}

type Lines = ReadonlyMap<string, string>;

function differing(before: Lines, after: Lines): FactChange[] {
  const names = [...new Set([...before.keys(), ...after.keys()])];
  return names.flatMap((what) => {
    const [was, is] = [before.get(what) ?? NOTHING, after.get(what) ?? NOTHING];
    return was === is ? [] : [{ what, before: was, after: is }];
  });
}

const sayScale = ({ low, high, unit, map }: FactScale): string =>
  `${sayQuantity(low, null)} to ${sayQuantity(high, unit)} on ${map}`;

function linesOfScene({ run, captions, readings, origin, lacking, charts }: SceneFacts): Lines {
  return new Map([
    ['Run', run.name],
    ['What is shown', captions.engineer],
    ...readings.map(({ name, said, trouble }) => [name, trouble ?? said] as const),
    ...origin.scales.map((scale) => [`Scale of ${scale.name}`, sayScale(scale)] as const),
    ...charts.map((c, i) => [`Chart ${c.title || i + 1}`, c.series.map((s) => s.name).join(', ')] as const),
    ['Steps', origin.steps],
    [
      'Files',
      origin.files.map(({ name, sha256 }) => (sha256 ? `${name} ${sha256.slice(0, 12)}` : name)).join(', '),
    ],
    ['Not in the run', lacking.join('; ') || NOTHING],
  ]);
}

const linesOfSet = ({ name, rows, columns }: SetFacts): Lines =>
  new Map([
    ['Set', name],
    ['Columns', columns.map((c) => c.name).join(', ')],
    ...rows.map(({ run, cells }) => [run, cells.join(', ')] as const),
  ]);
