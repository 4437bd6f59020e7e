import { nameWithoutUnit } from '../../model/quantity.ts';
import type { FieldRole } from '../../model/roles.ts';
import type { RunDescription, RunField } from '../../model/run.ts';
import { inFormula } from './formula-tree.ts';

/** A formula that is ready to be taken and changed: what it refers to stands in it, with its unit. */
export interface ReadyFormula {
  name: string;
  says: string;
  formula: string;
}

/** Names of what a run has of each role, as they stand in formulas. */
interface Has {
  of(role: FieldRole, components?: readonly number[]): string | null;
  /** Both halves of two complex vectors whose product is a flow of power. */
  waves: { e: [string, string]; h: [string, string] } | null;
  overTime: boolean;
}

interface Maker {
  name: string;
  says: string;
  /** Null where the run lacks what it is made from. */
  write(has: Has): string | null;
}

/** What the letters of a text stand for is put in; null where one of it is lacking. */
function filled(text: string, of: Record<string, string | null>): string | null {
  if (Object.values(of).some((name) => name === null)) return null;
  return text.replace(/\{(\w+)\}/g, (_, letter: string) => of[letter]!);
}

const VECTOR = [3];
const TENSOR = [6, 9];

const velocityOf = (has: Has): string | null => has.of('velocity', [2, 3]);
const densityOf = (has: Has): string => has.of('density') ?? '1.2 kg/m³';
/** Squared Mach number of air: 1.4 times 287 J/(kg K) times the temperature is the square of the speed of sound. */
const MACH_SQUARED = 'length({v})^2 / (1.4 * 287 J/(kg K) * absolute({t}))';

/** How fast the velocity along a wall grows with the distance from it. */
const DRAG = 'cross(outward normal, cross(outward normal, wall_gradient({v}) * outward normal))';

/**
 * Formulas that are often wanted and that files seldom hold. Relations of gases as in NACA Report 1135 (1953), for air; from
 * memory. Those of coefficients, rotating frames and safety are common practice, no source.
 */
const makers: readonly Maker[] = [
  {
    name: 'dynamic pressure',
    says: 'half the density times the squared speed',
    write: (has) => filled('{r} * length({v})^2 / 2', { r: densityOf(has), v: velocityOf(has) }),
  },
  {
    name: 'Mach number',
    says: 'speed over the speed of sound in air',
    write: (has) =>
      filled('length({v}) / sqrt(1.4 * 287 J/(kg K) * absolute({t}))', {
        v: velocityOf(has),
        t: has.of('temperature'),
      }),
  },
  {
    name: 'total pressure',
    says: 'pressure plus that of the speed, where the density stays the same',
    write: (has) =>
      filled('{p} + {r} * length({v})^2 / 2', {
        p: has.of('pressure'),
        r: densityOf(has),
        v: velocityOf(has),
      }),
  },
  {
    name: 'total pressure of a gas',
    says: 'pressure of air brought to rest without loss',
    write: (has) =>
      filled(`{p} * (1 + 0.2 * ${MACH_SQUARED}) ^ 3.5`, {
        p: has.of('pressure'),
        v: velocityOf(has),
        t: has.of('temperature'),
      }),
  },
  {
    name: 'total temperature',
    says: 'temperature of air brought to rest',
    write: (has) =>
      filled('absolute({t}) + length({v})^2 / (2 * 1005 J/(kg K))', {
        v: velocityOf(has),
        t: has.of('temperature'),
      }),
  },
  {
    name: 'pressure coefficient',
    says: 'pressure above that far away, over the dynamic pressure there; put in both',
    write: (has) => filled('({p} - 101325 Pa) / (1.2 kg/m³ * (10 m/s)^2 / 2)', { p: has.of('pressure') }),
  },
  {
    name: 'shear rate',
    says: 'how fast a flow shears',
    write: (has) =>
      filled('sqrt(2 * dot(strain_rate({v}), strain_rate({v})))', { v: has.of('velocity', VECTOR) }),
  },
  {
    // What the velocity gains towards the wall, without what of it is across: n x (n x a) is -a along the wall.
    name: 'wall shear',
    says: 'how the flow drags along its walls; put in the viscosity',
    write: (has) => filled(`1.8e-5 Pa s * ${DRAG}`, { v: has.of('velocity', VECTOR) }),
  },
  {
    name: 'skin-friction coefficient',
    says: 'wall shear over the dynamic pressure far away; put in the viscosity and both',
    write: (has) =>
      filled(`1.8e-5 Pa s * length(${DRAG}) / (1.2 kg/m³ * (10 m/s)^2 / 2)`, {
        v: has.of('velocity', VECTOR),
      }),
  },
  {
    name: 'heat flux',
    says: 'by conduction: put in the conductivity',
    write: (has) => filled('-0.03 W/(m K) * gradient({t})', { t: has.of('temperature') }),
  },
  {
    name: 'heat flux through walls',
    says: 'by conduction, outwards: put in the conductivity',
    write: (has) =>
      filled('-0.03 W/(m K) * dot(outward normal, wall_gradient({t}))', { t: has.of('temperature') }),
  },
  {
    name: 'absolute velocity',
    says: 'from a velocity relative to a frame that turns about z; put in its rate',
    write: (has) =>
      filled('{v} + cross(vector(0, 0, 10 / (1 s)), vector(x, y, z))', {
        v: has.of('relative velocity', VECTOR),
      }),
  },
  {
    name: 'velocity away from z',
    says: 'radial component about the z axis',
    write: (has) => filled('dot({v}, direction(vector(x, y, 0)))', { v: has.of('velocity', VECTOR) }),
  },
  {
    name: 'velocity around z',
    says: 'circumferential component about the z axis',
    write: (has) => filled('dot({v}, direction(vector(-y, x, 0)))', { v: has.of('velocity', VECTOR) }),
  },
  {
    name: 'factor of safety',
    says: 'yield strength over the von Mises stress, told up to 15; put in the strength',
    write: (has) => filled('min(15, 250 MPa / mises({s}))', { s: has.of('stress', TENSOR) }),
  },
  {
    name: 'radial stress about z',
    says: 'normal stress away from the z axis',
    write: (has) =>
      filled('dot(direction(vector(x, y, 0)), {s} * direction(vector(x, y, 0)))', {
        s: has.of('stress', TENSOR),
      }),
  },
  {
    name: 'hoop stress about z',
    says: 'normal stress around the z axis',
    write: (has) =>
      filled('dot(direction(vector(-y, x, 0)), {s} * direction(vector(-y, x, 0)))', {
        s: has.of('stress', TENSOR),
      }),
  },
  {
    name: 'power flow',
    says: 'mean over the cycle of the power that waves carry',
    write: ({ waves }) =>
      waves && `(cross(${waves.e[0]}, ${waves.h[0]}) + cross(${waves.e[1]}, ${waves.h[1]})) / 2`,
  },
  {
    name: 'time of arrival',
    says: 'when it first gets above a value; put in the value',
    write: (has) =>
      has.overTime ? filled('time_min({t} > 100 °C ? time : none)', { t: has.of('temperature') }) : null,
  },
  {
    name: 'change since the first step',
    says: 'what it has gained',
    write: (has) => (has.overTime ? filled('{t} - first({t})', { t: has.of('temperature') }) : null),
  },
  {
    name: 'change since the step before',
    says: 'what it has gained in one step',
    write: (has) => (has.overTime ? filled('{t} - previous({t})', { t: has.of('temperature') }) : null),
  },
];

const nameOf = (field: RunField): string => inFormula(nameWithoutUnit(field.name));

function wavesOf(run: RunDescription): Has['waves'] {
  const pairOf = (letter: string): [string, string] | null => {
    const first = run.fields.find(
      (f) => f.components === 3 && f.pair?.half === 'real' && f.pair.of.toLowerCase() === letter,
    );
    const second = first && run.fields.find((f) => f.key === first.pair!.other);
    return first && second ? [nameOf(first), nameOf(second)] : null;
  };
  const [e, h] = [pairOf('e'), pairOf('h')];
  return e && h && { e, h };
}

const known = new WeakMap<RunDescription, ReadyFormula[]>();

/** The ready formulas a run has everything for. */
export function readyFormulas(run: RunDescription): readonly ReadyFormula[] {
  let found = known.get(run);
  if (!found) known.set(run, (found = readyFor(run)));
  return found;
}

function readyFor(run: RunDescription): ReadyFormula[] {
  const has: Has = {
    of(role, components = [1]) {
      const found = run.fields.find(
        (f) => f.role === role && components.includes(f.components) && /^(?:point|cell):/.test(f.key),
      );
      return found ? nameOf(found) : null;
    },
    waves: wavesOf(run),
    overTime: run.steps.length > 1 && run.steps.every((s) => s.kind === 'time'),
  };
  return makers.flatMap(({ name, says, write }) => {
    const formula = write(has);
    return formula === null ? [] : [{ name, says, formula }];
  });
}
