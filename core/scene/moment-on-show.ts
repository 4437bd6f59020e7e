import type { Moment } from '../model/moment.ts';
import { understood } from '../ops/chain/understood.ts';
import type { Layer, Scene } from './document.ts';

/** Whether a line shows values, which differ from step to step. */
export const showsValues = ({ colour, chain }: Layer): boolean =>
  colour.kind === 'field' ||
  chain.some((step) => {
    const known = step.off ? null : understood(step);
    return known !== null && (known.operation.needs?.(known.options) ?? []).length > 0;
  });

/** Whether something with values, hidden or not, follows the time of a scene; true where nothing has values. */
export function followsTime({ layers }: Pick<Scene, 'layers'>): boolean {
  const valued = layers.filter(showsValues);
  return valued.length === 0 || valued.some((l) => l.time.kind !== 'fixed');
}

/**
 * What time it is on the picture: that of the scene, or that of the lines with values where all of these always show one
 * step; null where they show several.
 */
export function momentOnShow(scene: Pick<Scene, 'layers' | 'step' | 'onward'>): Moment | null {
  const { step, onward } = scene;
  const valued = scene.layers.filter((l) => l.visible && l.opacity > 0 && showsValues(l));
  const fixed = new Set(valued.map(({ time }) => (time.kind === 'fixed' ? time.step : null)));
  if (fixed.size === 0 || fixed.has(null)) return { step, onward };
  const [only] = fixed;
  return fixed.size === 1 ? { step: only!, onward: 0 } : null;
}
