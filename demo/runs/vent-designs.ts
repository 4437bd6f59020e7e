import type { DemoRun } from '../demo-run.ts';

const DENSITY = 0.95;
/** Air through all slots of a vent, m3/s. */
const FLOW = 0.08;
/** Of a sharp-edged slot. */
const DISCHARGE = 0.62;
/** Friction along the box, and share of its speed that air regains as it slows past a slot (invented). */
const FRICTION = 0.03;
const REGAIN = 0.75;

export interface VentDesign {
  slots: number;
  /** Of each slot, and of the box behind them, in metres. */
  width: number;
  length: number;
  box: number;
}

/**
 * Flow through each slot of a box that is fed at one end: pressure is lost to friction and regained where air slows down
 * behind a slot (dividing-flow manifold; Bajura and Jones 1976, from memory).
 *
 * @returns flows in m3/s from the fed end on, and the pressure there in Pa
 */
export function slotFlows({ slots, width, length, box }: VentDesign): { flows: number[]; pressure: number } {
  const area = width * length;
  const section = box * box;
  const spacing = 0.6 / slots;
  const through = (pressure: number): number[] => {
    let remaining = FLOW;
    let here = pressure;
    return Array.from({ length: slots }, () => {
      const flow = DISCHARGE * area * Math.sqrt((2 * Math.max(0, here)) / DENSITY);
      const [before, after] = [remaining / section, Math.max(0, remaining - flow) / section];
      here +=
        DENSITY * REGAIN * (before ** 2 - after ** 2) -
        ((FRICTION * spacing) / box) * (DENSITY / 2) * after ** 2;
      remaining = Math.max(0, remaining - flow);
      return flow;
    });
  };
  let [low, high] = [0, 1e5];
  for (let n = 0; n < 80; n++) {
    const middle = (low + high) / 2;
    if (through(middle).reduce((a, b) => a + b, 0) < FLOW) low = middle;
    else high = middle;
  }
  return { flows: through(high), pressure: high };
}

const DESIGNS: VentDesign[] = [6, 10, 16].flatMap((slots) =>
  [0.05, 0.075].flatMap((box) =>
    [0.6, 1].map((share) => ({ slots, width: (share * 0.036) / slots, length: 0.16, box })),
  ),
);

/** A dozen vents as one table: what was chosen, and what came of it. */
export const ventDesigns: DemoRun = {
  id: 'vent-designs',
  name: 'A dozen vent designs',
  file: 'vent-designs.csv',
  compute(write, progress) {
    const rows = DESIGNS.map((design, n) => {
      const { flows, pressure } = slotFlows(design);
      const speeds = flows.map((f) => f / (design.width * design.length));
      const evenness = (100 * Math.min(...flows)) / Math.max(...flows);
      return [
        n + 1,
        design.slots,
        (1000 * design.width).toFixed(2),
        (1000 * design.box).toFixed(0),
        pressure.toFixed(1),
        evenness.toFixed(1),
        Math.max(...speeds).toFixed(2),
        (pressure * FLOW).toFixed(2),
      ].join(',');
    });
    const head =
      'design,slots,slot width [mm],box [mm],pressure [Pa],evenness [%],fastest jet [m/s],fan power [W]';
    write(this.file, `${[head, ...rows].join('\n')}\n`);
    progress(1);
  },
};
