import type { Quantity } from '../model/quantity.ts';
import type { OperationSetting } from '../ops/chain/operation.ts';
import { usualVector } from '../ops/tracing/usual-vector.ts';

/** A line that answers a question of the trade; what it makes is an ordinary line. */
export interface ReadyBeginning {
  id: string;
  /** In plain words. */
  name: string;
  purpose: string;
  /** As it is typed in the trade. */
  everyday: RegExp;
  /**
   * The line; null where the run does not have what it asks for.
   *
   * @param within where it is asked: parts, a set or a line as sentences name them; without it where it usually is
   */
  begin(setting: OperationSetting, within?: string): Beginning | null;
}

/** A line as a sentence, at once or when the range of a quantity is known. */
export type Beginning = string | { quantity: Quantity; sentence(low: number, high: number): string };

const tidy = (v: number): number => Number(v.toPrecision(2));

/** The flow of a body; null for flat ones, in which a surface is a line. */
const flowOf = (setting: OperationSetting): Quantity | null =>
  setting.dimension < 3 ? null : usualVector(setting);

const isosurfaceOf = (name: string, value: number, within?: string): string =>
  within
    ? `Isosurface of ${within} where ${name} = ${value}, in copper`
    : `Isosurface of ${name} at ${value}, in copper`;

const named = ({ quantities }: OperationSetting, key: string): Quantity | null =>
  quantities.find((q) => q.field === key && (q.component === 'magnitude' || q.components === 1)) ?? null;

/** A quantity made of the flow, on a surface of equal value. */
const levelOf =
  (prefix: string, level: (low: number, high: number) => number): ReadyBeginning['begin'] =>
  (setting, within) => {
    const flow = flowOf(setting);
    const quantity = flow && named(setting, `${prefix}:${flow.field}`);
    return (
      quantity && {
        quantity,
        sentence: (low, high) => isosurfaceOf(quantity.name, tidy(level(low, high)), within),
      }
    );
  };

/** A value above zero that is met, small enough to show what weak there is of a vortex. Common practice, no source. */
const beyondZero = (low: number, high: number): number => (low > 0 ? low + 0.2 * (high - low) : 0.08 * high);

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
    everyday: /^where (?:it|the \w+) flows$/i,
    begin(setting, within) {
      const flow = usualVector(setting);
      if (!flow || setting.dimension < 2) return null;
      return `Streamlines of ${flow.name}${within ? ` in ${within}` : ''}, as tubes`;
    },
  },
  {
    id: 'along walls',
    name: 'How it rubs along walls',
    purpose: 'lines along walls in the direction of their shear',
    everyday:
      /^(?:wall shear(?: lines)?|(?:limiting|wall) streamlines|oil[- ]flow(?: lines)?|how it rubs along (?:the )?walls)$/i,
    begin(setting, within) {
      const flow = flowOf(setting);
      return flow && `Skin-friction lines${within ? ` of ${within}` : ''} by ${flow.name}`;
    },
  },
  {
    id: 'turned back',
    name: 'Where it turns back',
    purpose: 'the border of what flows against the rest',
    everyday:
      /^(?:revers(?:ed?|ing)[- ]flow|flow reversal|back[- ]?flow|recirculation(?: zones?| regions?)?|separat(?:ion|ed flow)|where it turns back)$/i,
    begin(setting, within) {
      const flow = flowOf(setting);
      const main = flow && mainDirection(setting, flow);
      return main ? isosurfaceOf(main.name, 0, within) : null;
    },
  },
  {
    id: 'still',
    name: 'Where it stands still',
    purpose: 'around the slowest twentieth of its speeds',
    everyday:
      /^(?:stagnation(?: zones?| regions?| points?)?|dead (?:zones?|water)|stagnant (?:flow|air|zones?|regions?)|where it stands still)$/i,
    begin(setting, within) {
      const flow = flowOf(setting);
      return flow && isosurfaceOf(flow.name, tidy(flow.low + 0.05 * (flow.high - flow.low)), within);
    },
  },
  {
    id: 'Q',
    name: 'Vortices by Q',
    purpose: 'where it turns more than it strains',
    everyday:
      /^(?:(?:vortices|vortex(?: cores?)?) (?:by|with|from) (?:the )?q(?:[- ]criterion)?|q[- ]criterion)$/i,
    begin: levelOf('Q', (low, high) => beyondZero(low, high)),
  },
  {
    id: 'lambda-2',
    name: 'Vortices by lambda-2',
    purpose: 'where pressure would be least across',
    everyday:
      /^(?:(?:vortices|vortex(?: cores?)?) (?:by|with|from) (?:the )?(?:lambda|λ)[- ]?2(?:[- ]criterion)?|(?:lambda|λ)[- ]?2[- ]criterion)$/i,
    begin: levelOf('lambda2', (low, high) => -beyondZero(-high, -low)),
  },
  {
    id: 'vorticity',
    name: 'Vorticity',
    purpose: 'where it turns fastest',
    everyday: /^(?:(?:vortices|vortex(?: cores?)?) (?:by|with|from) (?:the )?vorticity|vorticity)$/i,
    begin: levelOf('curl', (low, high) => low + 0.3 * (high - low)),
  },
];

/**
 * The beginning that a typed line asks for, by its name or as the trade says it: "recirculation in chamber air". What
 * stands behind a comma is left to the line it makes.
 */
export function typedBeginning(text: string, setting: OperationSetting): Beginning | null {
  const [, what = '', within] =
    /^\s*(?:the |show (?:me )?(?:the )?)?(.+?)(?: (?:in|of|on) (?:the )?(.+?))?\s*$/i.exec(text) ?? [];
  for (const { name, everyday, begin } of readyBeginnings)
    if (everyday.test(what) || what.toLowerCase() === name.toLowerCase()) return begin(setting, within);
  return null;
}
