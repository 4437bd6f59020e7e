import { boundsSize } from '../model/mesh.ts';
import type { Quantity } from '../model/quantity.ts';
import type { OperationSetting } from '../ops/chain/operation.ts';
import { usualVector } from '../ops/tracing/usual-vector.ts';

/** A line that answers a question of the trade; what it makes is an ordinary line. */
export interface ReadyBeginning {
  id: string;
  /** In plain words. */
  name: string;
  purpose: string;
  /** The line as a sentence; null where the run does not have what it asks for. */
  sentence(setting: OperationSetting): string | null;
}

const tidy = (v: number): number => Number(v.toPrecision(2));

/** The flow of a body, with how fast it turns over: its speed over the shortest side. */
function flowOf(setting: OperationSetting): { flow: Quantity; speed: number; rate: number } | null {
  const flow = usualVector(setting);
  if (!flow || setting.dimension < 3) return null;
  const size = Math.min(...boundsSize(setting.bounds).filter((s) => s > 0));
  return { flow, speed: flow.high, rate: flow.high / (size || 1) };
}

const isosurfaceOf = (name: string, value: number): string => `Isosurface of ${name} at ${value}, in copper`;

const named = ({ quantities }: OperationSetting, key: string): Quantity | null =>
  quantities.find((q) => q.field === key && (q.component === 'magnitude' || q.components === 1)) ?? null;

/** A quantity made of the flow, on a surface of equal value. */
const levelOf =
  (prefix: string, level: (rate: number) => number): ReadyBeginning['sentence'] =>
  (setting) => {
    const found = flowOf(setting);
    const quantity = found && named(setting, `${prefix}:${found.flow.field}`);
    return found && quantity ? isosurfaceOf(quantity.name, tidy(level(found.rate))) : null;
  };

/** The component along which most goes, with the sign of where it goes. */
function mainDirection({ quantities }: OperationSetting, flow: Quantity): Quantity | null {
  const components = quantities.filter((q) => q.field === flow.field && typeof q.component === 'number');
  const strong = components.toSorted((a, b) => Math.abs(b.mean) - Math.abs(a.mean));
  return strong[0] ?? null;
}

/** Ready beginnings, in the order in which they are offered. */
export const readyBeginnings: readonly ReadyBeginning[] = [
  {
    id: 'lines of the flow',
    name: 'Where it flows',
    purpose: 'lines all through the flow, as tubes',
    sentence(setting) {
      const flow = usualVector(setting);
      return flow && setting.dimension >= 2 ? `Streamlines of ${flow.name}, as tubes` : null;
    },
  },
  {
    id: 'turned back',
    name: 'Where it turns back',
    purpose: 'the border of what flows against the rest',
    sentence(setting) {
      const found = flowOf(setting);
      const main = found && mainDirection(setting, found.flow);
      return main ? isosurfaceOf(main.name, 0) : null;
    },
  },
  {
    id: 'still',
    name: 'Where it stands still',
    purpose: 'around what is slower than a twentieth of the fastest',
    sentence(setting) {
      const found = flowOf(setting);
      return found && isosurfaceOf(found.flow.name, tidy(0.05 * found.speed));
    },
  },
  {
    id: 'Q',
    name: 'Vortices by Q',
    purpose: 'where it turns more than it strains',
    sentence: levelOf('Q', (rate) => 2 * rate ** 2),
  },
  {
    id: 'lambda-2',
    name: 'Vortices by lambda-2',
    purpose: 'where pressure would be least across',
    sentence: levelOf('lambda2', (rate) => -2 * rate ** 2),
  },
  {
    id: 'vorticity',
    name: 'Vorticity',
    purpose: 'where it turns fastest',
    sentence: levelOf('curl', (rate) => 4 * rate),
  },
];
