/** One second-order section `(b0 + b1 z^-1 + b2 z^-2) / (1 + a1 z^-1 + a2 z^-2)`. */
export interface Section {
  b: readonly [number, number, number];
  a: readonly [number, number];
}

export interface FilterDesign {
  kind: 'butterworth' | 'chebyshev';
  pass: 'low' | 'high';
  order: number;
  /** Of the frequency of sampling; below one half. */
  cutoff: number;
  /** Of a Chebyshev filter, how far its pass band waves, in decibels. */
  ripple: number;
}

/**
 * Sections of a recursive filter: the poles of the analogue low pass, brought to the frequency that is asked for and by the
 * bilinear transform into samples (Oppenheim, Schafer: Discrete-Time Signal Processing, chapter 7; from memory).
 */
export function filterSections({ kind, pass, order, cutoff, ripple }: FilterDesign): Section[] {
  // Warped so that the cut-off lies where it was asked for.
  const warped = Math.tan(Math.PI * cutoff);
  const epsilon = Math.sqrt(10 ** (ripple / 10) - 1);
  const v = kind === 'chebyshev' ? Math.asinh(1 / epsilon) / order : 0;
  const [across, along] = kind === 'chebyshev' ? [Math.sinh(v), Math.cosh(v)] : [1, 1];
  const sections: Section[] = [];
  for (let k = 0; k < Math.ceil(order / 2); k++) {
    const angle = (Math.PI * (2 * k + 1)) / (2 * order);
    const real = -across * Math.sin(angle);
    const imaginary = along * Math.cos(angle);
    const single = order % 2 === 1 && k === (order - 1) / 2;
    sections.push(single ? firstOrder(-real, warped, pass) : secondOrder(real, imaginary, warped, pass));
  }
  // An even Chebyshev filter begins at the bottom of its waves.
  const gain = kind === 'chebyshev' && order % 2 === 0 ? 1 / Math.sqrt(1 + epsilon * epsilon) : 1;
  const [first, ...others] = sections;
  return [{ ...first, b: first.b.map((b) => gain * b) as unknown as Section['b'] }, ...others];
}

/** `s^2 + c1 s + c0` with poles `real ± i imaginary`, of unit gain where it passes. */
function secondOrder(real: number, imaginary: number, w: number, pass: 'low' | 'high'): Section {
  const c0 = real * real + imaginary * imaginary;
  const c1 = -2 * real;
  // Low: c0 w^2 / (s^2 + c1 w s + c0 w^2); high: with s -> w / s.
  const [p0, p1, p2] = pass === 'low' ? [c0 * w * w, c1 * w, 1] : [w * w, c1 * w, c0];
  const norm = p2 + p1 + p0;
  const gain = pass === 'low' ? p0 / norm : p2 / norm;
  return {
    b: pass === 'low' ? [gain, 2 * gain, gain] : [gain, -2 * gain, gain],
    a: [(2 * (p0 - p2)) / norm, (p2 - p1 + p0) / norm],
  };
}

function firstOrder(pole: number, w: number, pass: 'low' | 'high'): Section {
  const at = pass === 'low' ? pole * w : w / pole;
  const gain = pass === 'low' ? at / (1 + at) : 1 / (1 + at);
  return { b: pass === 'low' ? [gain, gain, 0] : [gain, -gain, 0], a: [(at - 1) / (at + 1), 0] };
}

/** Samples through sections, one after the other, as if the first sample had gone on for ever before. */
export function filtered(samples: ArrayLike<number>, sections: readonly Section[]): Float64Array {
  const out = Float64Array.from(samples);
  for (const { b, a } of sections) {
    // The state in which a constant of that size stays what the section makes of it.
    const steady = (b[0] + b[1] + b[2]) / (1 + a[0] + a[1]);
    const first = out[0];
    let s1 = first * (steady - b[0]);
    let s2 = first * (b[2] - a[1] * steady);
    for (let i = 0; i < out.length; i++) {
      const x = out[i];
      const y = b[0] * x + s1;
      s1 = b[1] * x - a[0] * y + s2;
      s2 = b[2] * x - a[1] * y;
      out[i] = y;
    }
  }
  return out;
}

/**
 * Forward and backward, so that nothing is late: the response is squared, the phase is none (Gustafsson: Determining the
 * initial states in forward-backward filtering, IEEE Trans. Signal Proc. 44 (1996); from memory). Beyond its ends the curve
 * goes on turned about them.
 */
export function filteredBothWays(samples: Float64Array, sections: readonly Section[]): Float64Array {
  const n = samples.length;
  const pad = Math.min(n - 1, 12 * sections.length * 2);
  const padded = Float64Array.from({ length: n + 2 * pad }, (_, i) => {
    const at = i - pad;
    if (at < 0) return 2 * samples[0] - samples[-at];
    if (at >= n) return 2 * samples[n - 1] - samples[2 * (n - 1) - at];
    return samples[at];
  });
  const there = filtered(padded, sections).reverse();
  return filtered(there, sections)
    .reverse()
    .slice(pad, pad + n);
}

/** How much of a wave of a frequency, as a share of that of sampling, comes through. */
export function responseOf(sections: readonly Section[], frequency: number): number {
  const w = 2 * Math.PI * frequency;
  return sections.reduce((gain, { b, a }) => {
    const size = (c: readonly number[]): number =>
      Math.hypot(
        c.reduce((sum, v, k) => sum + v * Math.cos(k * w), 0),
        c.reduce((sum, v, k) => sum + v * Math.sin(k * w), 0),
      );
    return (gain * size(b)) / size([1, ...a]);
  }, 1);
}
