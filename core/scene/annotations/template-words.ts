import { isUsual } from '../../fields/quantity-sources.ts';
import type { TemplateValue } from '../../language/template.ts';
import { stepOfMoment } from '../../model/moment.ts';
import { parseQuantity, type Quantity, quantityStatistics } from '../../model/quantity.ts';
import { fieldByKey, type RunDescription } from '../../model/run.ts';
import type { Vector } from '../../model/vectors.ts';
import type { Scene } from '../document.ts';
import { gaugeLabel, readsVector } from '../gauge-label.ts';
import { isReading, numberOf, type Reading, type Readings } from '../reading.ts';
import { quantitiesOf } from '../setting.ts';
import { shownScales } from '../shown-scales.ts';
import type { WantedValue } from './attachment.ts';

/** What a place says of itself to the words that hang on it. */
export interface Here {
  place: Vector | null;
  part: string | null;
  /** Of the point or cell, as the files count from 0. */
  index: number | null;
  /** Its number among those that are counted. */
  number: number | null;
  /** What `value` stands for; null where there is no such thing. */
  value: { says: string; unit: string | null; wanted: WantedValue | null; read(): number } | null;
  /** Not a number where it is not known. */
  tell(wanted: WantedValue): number;
}

/** What the words of a template are about. */
export interface TemplateSetting {
  scene: Scene;
  run: RunDescription;
  step: number;
  /** For words that hang on a place; null for all others. */
  here: Here | null;
  /** What gauges read, by their ids; absent while it is not known. */
  readings?: Readings;
  /** What dimension lines measure; see `measured-on-picture.ts`. */
  measured?: readonly MeasuredNumber[];
}

/** A number that was measured on the picture. */
export interface MeasuredNumber {
  name: string;
  unit: string | null;
  read(): number;
}

/** A value of a picture that can stand in a text. */
export interface TemplateWord extends TemplateValue {
  /** Id of the gauge it tells of. */
  gauge?: string;
  /** The key of the quantity whose range it tells. */
  range?: string;
  /** The quantity it tells at the place where the words hang. */
  here?: WantedValue;
}

type WordSource = (setting: TemplateSetting) => TemplateWord[];

const plainWord = (name: string, says: string, value: () => number | string | null): TemplateWord => ({
  name,
  says,
  unit: null,
  value,
});

const ofStep: WordSource = ({ run, step, scene }) => [
  {
    name: 'time',
    says: 'of the step on show',
    unit: run.timeUnit,
    value: () => (run.steps[step] ? stepOfMoment(run, { step, onward: scene.onward }).time : null),
  },
  plainWord('step', 'number of the step, from 1', () => step + 1),
  plainWord('steps', 'how many steps there are', () => run.steps.length),
  plainWord('run', 'name of the run', () => run.name),
  plainWord('scene', 'name of the scene', () => scene.name),
];

/** Inputs and results of the run; a name that has a meaning of its own here is said with the word before it. */
const ofRun: WordSource = (setting) =>
  Object.entries(setting.run.parameters).map(([name, value]) => {
    const taken = ofStep(setting).some((w) => w.name === name.toLowerCase());
    return plainWord(taken ? `parameter ${name}` : name, 'a parameter of the run', () => value);
  });

const extremes = [
  { name: 'min', says: 'lowest', of: (s: { min: number; max: number; mean: number }) => s.min },
  { name: 'max', says: 'highest', of: (s: { min: number; max: number; mean: number }) => s.max },
  { name: 'mean', says: 'mean of all', of: (s: { min: number; max: number; mean: number }) => s.mean },
] as const;

/** Whether a quantity is one that nobody is offered who did not ask for it: made from others, and shown by no colours. */
const isRare = ({ field }: Quantity, { scales }: Scene): boolean =>
  !isUsual(field) && !scales.some((s) => parseQuantity(s.quantity).field === field);

/** Lowest, highest and mean value of each quantity at the step on show; without a name those of the first scale. */
const ofQuantities: WordSource = ({ run, scene, step }) => {
  const word = (
    { name, says, of }: (typeof extremes)[number],
    named: string,
    { field: key, component }: WantedValue,
    what: string,
  ): TemplateWord => ({
    name: named === '' ? name : `${name} ${named}`,
    says: `${says} ${what}, at this step`,
    unit: fieldByKey(run, key)?.unit ?? null,
    range: key,
    value: () => {
      const field = fieldByKey(run, key);
      const s = field && quantityStatistics(field, component, step);
      if (!s || !Number.isFinite(s.min)) return null;
      return of({ min: s.min, max: s.max, mean: s.count > 0 ? s.sum / s.count : Number.NaN });
    },
  });
  const [first] = shownScales(scene);
  return extremes.flatMap((e) => [
    ...(first ? [word(e, '', parseQuantity(first.quantity), 'value of the first colour scale')] : []),
    ...quantitiesOf(run).map((q) => ({ ...word(e, q.name, q, q.name), rare: isRare(q, scene) })),
  ]);
};

/** What can be told of the place where words hang: its value, every other quantity there, and where it is. */
const ofPlace: WordSource = ({ run, scene, here }) => {
  if (!here) return [];
  const { value, place, part, index, number } = here;
  const told = (wanted: WantedValue) => (): number => here.tell(wanted);
  return [
    ...(value
      ? [
          {
            name: 'value',
            says: value.says,
            unit: value.unit,
            ...(value.wanted ? { here: value.wanted } : {}),
            value: value.read,
          },
        ]
      : []),
    ...(number !== null ? [plainWord('number', 'its number', () => number)] : []),
    plainWord('part', 'name of the part', () => part),
    plainWord('index', 'of the point or cell, from 0', () => index),
    ...(['x', 'y', 'z'] as const).map((name, k) => ({
      name,
      says: 'coordinate',
      unit: run.lengthUnit,
      value: () => place?.[k] ?? null,
    })),
    ...quantitiesOf(run).map((q) => ({
      rare: isRare(q, scene),
      name: q.name,
      says: 'there',
      unit: q.unit,
      here: { field: q.field, component: q.component },
      value: told(q),
    })),
  ];
};

const ofDimensions: WordSource = ({ measured = [] }) =>
  measured.map(({ name, unit, read }) => ({ name, says: 'measured on the picture', unit, value: read }));

/** What gauges read; of a vector its parts, too. */
const ofGauges: WordSource = ({ run, scene, readings = {} }) =>
  scene.gauges.flatMap((gauge) => {
    const name = gaugeLabel(gauge, scene, run);
    const word = (
      called: string,
      says: string,
      read: (found: Reading) => number | number[],
    ): TemplateWord => {
      const found = readings[gauge.id];
      const reading = isReading(found) ? found : null;
      return {
        name: called,
        says,
        unit: reading?.unit ?? null,
        gauge: gauge.id,
        value: () => (reading ? read(reading) : null),
      };
    };
    const parts = readsVector(gauge) ? (['x', 'y', 'z', 'size'] as const) : [];
    return [
      word(name, 'read by a gauge', ({ value }) => value),
      ...parts.map((part) => word(`${name} ${part}`, `its ${part}`, (found) => numberOf(found, part))),
    ];
  });

/** Where words of templates come from, those that win first. A new source is one more entry. */
const sources: readonly WordSource[] = [ofStep, ofPlace, ofDimensions, ofGauges, ofRun, ofQuantities];

/** Every value that can stand in a text, each name once. */
export function templateWords(setting: TemplateSetting): TemplateWord[] {
  const seen = new Set<string>();
  return sources
    .flatMap((source) => source(setting))
    .filter(({ name }) => {
      const known = name.toLowerCase();
      return seen.has(known) ? false : seen.add(known);
    });
}
