import FFT from 'fft.js';

/**
 * The discrete Fourier transform of real samples, of any number: the real and imaginary parts of its first half. What is no
 * power of two goes by way of a convolution (Bluestein: A linear filtering approach to the computation of the discrete
 * Fourier transform, IEEE Trans. Audio 18 (1970); from memory).
 */
export function fourier(samples: ArrayLike<number>): { real: Float64Array; imaginary: Float64Array } {
  const n = samples.length;
  const half = Math.floor(n / 2) + 1;
  const isPower = n > 1 && (n & (n - 1)) === 0;
  const all = isPower ? transformed(samples) : chirped(samples);
  return {
    real: Float64Array.from({ length: half }, (_, k) => all[2 * k]),
    imaginary: Float64Array.from({ length: half }, (_, k) => all[2 * k + 1]),
  };
}

function transformed(samples: ArrayLike<number>): ArrayLike<number> {
  const library = new FFT(samples.length);
  const out = library.createComplexArray();
  library.transform(out, library.toComplexArray(Array.from(samples), null));
  return out;
}

function chirped(samples: ArrayLike<number>): Float64Array {
  const n = samples.length;
  let size = 2;
  while (size < 2 * n - 1) size *= 2;
  const library = new FFT(size);
  const [a, b] = [new Float64Array(2 * size), new Float64Array(2 * size)];
  // Of k squared only the remainder counts, which keeps the angle exact.
  const angle = (k: number): number => (Math.PI * ((k * k) % (2 * n))) / n;
  for (let k = 0; k < n; k++) {
    const [c, s] = [Math.cos(angle(k)), Math.sin(angle(k))];
    a[2 * k] = samples[k] * c;
    a[2 * k + 1] = -samples[k] * s;
    for (const at of k === 0 ? [0] : [k, size - k]) [b[2 * at], b[2 * at + 1]] = [c, s];
  }
  const [fa, fb] = [library.createComplexArray(), library.createComplexArray()];
  library.transform(fa, a as unknown as number[]);
  library.transform(fb, b as unknown as number[]);
  const product = library.createComplexArray();
  for (let k = 0; k < size; k++) {
    product[2 * k] = fa[2 * k] * fb[2 * k] - fa[2 * k + 1] * fb[2 * k + 1];
    product[2 * k + 1] = fa[2 * k] * fb[2 * k + 1] + fa[2 * k + 1] * fb[2 * k];
  }
  const back = library.createComplexArray();
  library.inverseTransform(back, product);
  const out = new Float64Array(2 * n);
  for (let k = 0; k < n; k++) {
    const [c, s] = [Math.cos(angle(k)), -Math.sin(angle(k))];
    out[2 * k] = back[2 * k] * c - back[2 * k + 1] * s;
    out[2 * k + 1] = back[2 * k] * s + back[2 * k + 1] * c;
  }
  return out;
}
