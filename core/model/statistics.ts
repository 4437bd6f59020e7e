/** Extremes and mean of one quantity; `mean` needs `count`, and values that are not numbers are only counted. */
export interface Statistics {
  min: number;
  max: number;
  sum: number;
  count: number;
  nanCount: number;
}

/** Statistics of a field: of each component, and of the Euclidean length where there are two or three. */
export interface FieldStatistics {
  components: Statistics[];
  magnitude: Statistics | null;
}

export function fieldStatistics(data: ArrayLike<number>, components: number): FieldStatistics {
  const perComponent = Array.from({ length: components }, (_, k) => strideStatistics(data, components, k));
  return {
    components: perComponent,
    magnitude: isVector(components) ? lengthStatistics(data, components) : null,
  };
}

/** Fields with two or three components are vectors: a length makes sense. */
export const isVector = (components: number): boolean => components === 2 || components === 3;

function strideStatistics(data: ArrayLike<number>, stride: number, offset: number): Statistics {
  let min = Infinity;
  let max = -Infinity;
  let sum = 0;
  let nanCount = 0;
  let count = 0;
  for (let i = offset; i < data.length; i += stride) {
    const v = data[i];
    if (Number.isNaN(v)) {
      nanCount++;
      continue;
    }
    if (v < min) min = v;
    if (v > max) max = v;
    sum += v;
    count++;
  }
  return { min, max, sum, count, nanCount };
}

function lengthStatistics(data: ArrayLike<number>, components: number): Statistics {
  const lengths = new Float64Array(Math.floor(data.length / components));
  for (let i = 0; i < lengths.length; i++) {
    let squares = 0;
    for (let k = 0; k < components; k++) squares += data[i * components + k] ** 2;
    lengths[i] = Math.sqrt(squares);
  }
  return strideStatistics(lengths, 1, 0);
}

export function joinStatistics(a: Statistics, b: Statistics): Statistics {
  return {
    min: Math.min(a.min, b.min),
    max: Math.max(a.max, b.max),
    sum: a.sum + b.sum,
    count: a.count + b.count,
    nanCount: a.nanCount + b.nanCount,
  };
}

export function joinFieldStatistics(a: FieldStatistics, b: FieldStatistics): FieldStatistics {
  return {
    components: a.components.map((s, k) => joinStatistics(s, b.components[k])),
    magnitude: a.magnitude && b.magnitude ? joinStatistics(a.magnitude, b.magnitude) : null,
  };
}

export const meanOf = (s: Statistics): number => (s.count > 0 ? s.sum / s.count : Number.NaN);
