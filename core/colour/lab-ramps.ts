import { type Lab, labToRgb, type Rgb } from './cielab.ts';

/**
 * A colour ramp through anchor colours in CIE L*a*b* whose lightness is a straight line, so that equal steps of the
 * quantity look like equal steps. Anchors must rise in lightness; a and b follow a smooth curve between them
 * (Catmull-Rom tangents).
 */
export function straightLightnessRamp(anchors: Lab[], samples = 256): Rgb[] {
  const [from, to] = [anchors[0][0], anchors[anchors.length - 1][0]];
  return Array.from({ length: samples }, (_, i) => {
    const lightness = from + ((to - from) * i) / (samples - 1);
    return clipped(labToRgb([lightness, curve(anchors, lightness, 1), curve(anchors, lightness, 2)]));
  });
}

/** Two such ramps that meet in the middle: `low` and `high` both rise towards their shared lightest colour. */
export function twoSidedRamp(low: Lab[], high: Lab[], samples = 256): Rgb[] {
  const half = samples / 2;
  return [...straightLightnessRamp(low, half), ...straightLightnessRamp(high, half).reverse()];
}

function curve(anchors: Lab[], lightness: number, channel: 1 | 2): number {
  let k = 0;
  while (k < anchors.length - 2 && lightness > anchors[k + 1][0]) k++;
  const a = anchors[k];
  const b = anchors[k + 1];
  const width = b[0] - a[0];
  const t = (lightness - a[0]) / width;
  const slope = (i: number): number => {
    const before = anchors[Math.max(0, i - 1)];
    const behind = anchors[Math.min(anchors.length - 1, i + 1)];
    return ((behind[channel] - before[channel]) / (behind[0] - before[0])) * width;
  };
  const t2 = t * t;
  const t3 = t2 * t;
  return (
    (2 * t3 - 3 * t2 + 1) * a[channel] +
    (t3 - 2 * t2 + t) * slope(k) +
    (3 * t2 - 2 * t3) * b[channel] +
    (t3 - t2) * slope(k + 1)
  );
}

const clipped = (c: Rgb): Rgb => c.map((v) => Math.min(1, Math.max(0, v))) as Rgb;
