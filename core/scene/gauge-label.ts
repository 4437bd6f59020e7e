import { measureById } from '../measure/registry.ts';
import type { RunDescription } from '../model/run.ts';
import { sayAsk } from './ask.ts';
import type { Gauge, Scene } from './document.ts';

/** How a gauge is called: by its own name, or by what it asks. */
export function gaugeLabel(gauge: Gauge, scene: Scene, run: RunDescription): string {
  if (gauge.name !== null) return gauge.name;
  try {
    return sayAsk(gauge, scene, run, 'reader');
  } catch {
    return `${gauge.measure} (not understood)`;
  }
}

/** Whether a gauge reads a whole curve at every step. */
export function givesCurve({ measure }: Pick<Gauge, 'measure'>): boolean {
  try {
    return measureById(measure).givesCurve ?? false;
  } catch {
    return false;
  }
}

/** Whether what it reads has parts along x, y and z. */
export function readsVector({ measure, options }: Gauge): boolean {
  try {
    const known = measureById(measure);
    return known.isVector?.(known.schema.parse(options)) ?? false;
  } catch {
    return false;
  }
}
