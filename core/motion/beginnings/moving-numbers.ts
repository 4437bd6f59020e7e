import type { Phrase } from '../../language/phrase.ts';
import type { Levels } from '../../model/levels.ts';
import type { RunDescription } from '../../model/run.ts';
import type { OperationSetting, OptionControl } from '../../ops/chain/operation.ts';
import { understood } from '../../ops/chain/understood.ts';
import { planeRange } from '../../ops/kernels/planes.ts';
import { type Address, type Keyable, keyable } from '../../scene/addresses.ts';
import type { Layer, Scene } from '../../scene/document.ts';
import { hold } from '../../scene/reel/ease.ts';
import { type NewLane, sameAddress } from '../../scene/reel/lane.ts';
import { settingOf } from '../../scene/setting.ts';
import { sceneThings } from '../../scene/things/registry.ts';
import { type BeginningSetting, settingOfBeginning } from './beginning.ts';

type Options = Record<string, unknown>;

/** A number of a scene that can move: where a plane is, the value of an isosurface, an angle, a factor, an opening. */
export interface MovingNumber {
  address: Address;
  /** What sentences call it; the first is said, all are understood: `section 1`, `place of section of line 2`. */
  names: string[];
  now: number;
  /** As far as it is usually moved. */
  low: number;
  high: number;
  /** In which it is told; null for a plain number. */
  unit: string | null;
  /** Whether it has a unit by nature; where the run states none, a typed one is passed over. */
  measured: boolean;
  /** Of a plane its normal, and where that is kept. */
  normal: { address: Address; now: readonly number[] } | null;
  /** What else its holder must be for it to count: the deformed shape by a factor of one's own. */
  asks: readonly { address: Address; value: unknown }[];
  /** What its address holds when it has a value. */
  value(number: number): unknown;
}

type Found = Pick<MovingNumber, 'low' | 'high' | 'unit'> &
  Partial<Pick<MovingNumber, 'normal' | 'value' | 'now' | 'measured'>> & { asks?: Options } & {
    key: string;
    first?: boolean;
  };

/** Numbers of a scene that can move, those that are seen to move first. */
export function movingNumbers(scene: Scene, run: RunDescription): MovingNumber[] {
  const keyed = new Map(keyable(scene).map((k) => [k.address.join('\n'), k]));
  const at = (address: Address): Keyable | undefined => keyed.get(address.join('\n'));
  const setting = settingOf(run, scene);
  const counted = new Map<string, number>();
  const number = (name: string): number => {
    const n = (counted.get(name) ?? 0) + 1;
    counted.set(name, n);
    return n;
  };
  const out: MovingNumber[] = [];
  for (const layer of scene.layers)
    for (const step of layer.chain) {
      const known = understood(step);
      if (!known) continue;
      const name = known.operation.name.toLowerCase();
      const label = `${name} ${number(name)}`;
      const holder = ['layers', layer.id, 'chain', step.id];
      const ofLayer = settingOf(run, scene, layer);
      const controls = known.operation.controls as OptionControl<Options>[];
      const settle = (options: Options): Options =>
        (known.operation.settle?.(options as never, ofLayer) as Options | undefined) ?? options;
      for (const found of foundIn(controls, known.options, ofLayer, settle)) {
        const address = [...holder, found.key];
        const entry = at(address);
        if (entry) out.push(moving(found, entry, found.first ? [label] : [], holder));
      }
    }
  for (const { id, controls } of sceneThings)
    for (const found of foundIn(
      controls as OptionControl<Options>[],
      scene[id] as unknown as Options,
      setting,
    )) {
      const entry = at([id, found.key]);
      if (entry) out.push(moving(found, entry, [], [id]));
    }
  for (const layer of scene.layers) {
    const entry = at(['layers', layer.id, 'opacity']);
    if (entry) out.push(moving({ key: 'opacity', low: 0, high: 1, unit: null }, entry, [], lineOf(layer)));
  }
  return out;
}

const lineOf = ({ id }: Layer): Address => ['layers', id];

function moving(found: Found, entry: Keyable, first: string[], holder: Address): MovingNumber {
  const { low, high, unit, measured = unit !== null, normal = null } = found;
  const { asks = {}, value = (v: number) => v, now = entry.value as number } = found;
  return {
    address: entry.address,
    names: [...first, entry.name],
    now,
    low,
    high,
    unit,
    measured,
    normal: normal && { ...normal, address: [...holder, ...normal.address] },
    asks: Object.entries(asks).map(([key, value]) => ({ address: [...holder, key], value })),
    value,
  };
}

/** The numbers among some options. The first that its operation is moved by bears its name alone. */
function foundIn(
  controls: readonly OptionControl<Options>[],
  options: Options,
  setting: OperationSetting,
  settle: (options: Options) => Options = (o) => o,
): Found[] {
  const out: Found[] = [];
  for (const control of controls) {
    const found =
      !control.when || control.when(options, setting)
        ? foundBy(control, options, setting)
        : foundIfAsked(control, options, setting, settle);
    if (found) out.push({ ...found, first: !out.some((f) => f.first) && found.first === true });
  }
  return out;
}

/** A number that would count if its operation went by it: it begins as what the operation comes to now. */
function foundIfAsked(
  control: OptionControl<Options>,
  options: Options,
  setting: OperationSetting,
  settle: (options: Options) => Options,
): Found | null {
  if (control.kind !== 'number' || !control.asks) return null;
  const settled = settle(options);
  const found = foundBy(control, { ...settled, ...control.asks }, setting);
  return found && { ...found, now: settled[control.key] as number, asks: control.asks };
}

function foundBy(control: OptionControl<Options>, options: Options, setting: OperationSetting): Found | null {
  const { key } = control;
  const value = options[key];
  switch (control.kind) {
    case 'plane': {
      const normal = value as number[];
      const [low, high] = planeRange(setting.bounds, normal);
      const { lengthUnit: unit } = setting;
      const plane = { address: [key], now: normal };
      return { key: control.offset, low, high, unit, measured: true, normal: plane, first: true };
    }
    case 'levels': {
      const levels = value as Levels | null;
      if (levels?.kind !== 'list' || levels.values.length !== 1) return null;
      const of = quantityIn(options, setting);
      return {
        key,
        low: of?.low ?? levels.values[0],
        high: of?.high ?? levels.values[0],
        unit: of?.unit ?? null,
        measured: true,
        now: levels.values[0],
        value: (v) => ({ kind: 'list', values: [v] }),
        first: true,
      };
    }
    case 'number': {
      if (typeof value !== 'number' || control.whole) return null;
      const [low, high] = control.range?.(options, setting) ?? [Math.min(0, value), Math.max(0, value)];
      const unit = unitOf(control.unit, options, setting);
      return { key, low, high, unit, measured: control.unit !== undefined, first: true };
    }
    case 'share':
      return typeof value === 'number' ? { key, low: 0, high: 1, unit: null } : null;
    case 'focal length': {
      const [low, high] = control.range();
      return typeof value === 'number' ? { key, low, high, unit: '°' } : null;
    }
    default:
      return null;
  }
}

const quantityIn = ({ field, component }: Options, { quantities }: OperationSetting) =>
  quantities.find((q) => q.field === field && q.component === component);

function unitOf(
  unit: 'length' | 'angle' | 'percent' | 'field' | undefined,
  options: Options,
  setting: OperationSetting,
): string | null {
  switch (unit) {
    case 'length':
      return setting.lengthUnit;
    case 'angle':
      return '°';
    case 'percent':
      return '%';
    case 'field':
      return quantityIn(options, setting)?.unit ?? null;
    default:
      return null;
  }
}

/** The number at an address; undefined where it is gone. */
export const numberAt = (of: unknown, { numbers }: BeginningSetting): MovingNumber | undefined =>
  numbers.find((n) => sameAddress(n.address, of as string[]));

/** Lanes of a number that moves by some keys: its own, and those of what it asks for from the first of them on. */
export const lanesOfNumber = ({ address, asks }: MovingNumber, keys: NewLane['keys']): NewLane[] => [
  { of: [...address], keys },
  ...asks.map(({ address, value }) => ({ of: [...address], keys: [{ at: keys[0].at, value, ease: hold }] })),
];

/** A number by one of its names; the options keep its address. */
export const numberByName = <O extends { of: string[] }>(): Phrase<O> => ({
  say: ({ of }, s) => [
    {
      text: numberAt(of, settingOfBeginning(s))?.names[0] ?? 'what is gone',
      control: { kind: 'option', step: '', key: 'of' },
    },
  ],
  read(reader, into, s) {
    const { numbers } = settingOfBeginning(s);
    const found = reader.name(numbers.flatMap((value) => value.names.map((text) => ({ text, value }))));
    if (!found) return false;
    into.of = [...found.address];
    return true;
  },
});
