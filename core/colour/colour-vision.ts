import { fromLinear, toLinear } from '../model/srgb.ts';
import { clipped, luminance, type Rgb } from './cielab.ts';

/** Ways in which eyes differ: without the long, the middle or the short waves, or without any colour. */
export const visions = ['protan', 'deutan', 'tritan', 'grey'] as const;
export type Vision = (typeof visions)[number];

/**
 * Machado, Oliveira and Fernandes, "A physiologically-based model for simulation of color vision deficiency", IEEE
 * Transactions on Visualization and Computer Graphics 15 (2009), table 1, severity 1.0; on linear colours.
 */
const matrices: Record<Exclude<Vision, 'grey'>, readonly number[]> = {
  protan: [0.152286, 1.052583, -0.204868, 0.114503, 0.786281, 0.099216, -0.003882, -0.048116, 1.051998],
  deutan: [0.367322, 0.860646, -0.227968, 0.280085, 0.672501, 0.047413, -0.01182, 0.04294, 0.968881],
  tritan: [1.255528, -0.076749, -0.178779, -0.078411, 0.930809, 0.147602, 0.004733, 0.691367, 0.3039],
};

/** A colour as an eye sees it that lacks one kind of cones; or its grey of the same luminance. */
export function seenBy(colour: Rgb, vision: Vision): Rgb {
  const [r, g, b] = colour.map(toLinear);
  if (vision === 'grey') {
    const y = fromLinear(luminance(colour));
    return clipped([y, y, y]);
  }
  const m = matrices[vision];
  return clipped(
    [0, 3, 6].map((k) => fromLinear(Math.max(0, m[k] * r + m[k + 1] * g + m[k + 2] * b))) as Rgb,
  );
}
