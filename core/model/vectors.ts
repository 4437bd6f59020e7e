/** Three numbers: a place, a direction, or a size along each axis. */
export type Vector = [number, number, number];

type Given = readonly number[];

export const add = (a: Given, b: Given): Vector => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const subtract = (a: Given, b: Given): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const times = (a: Given, s: number): Vector => [a[0] * s, a[1] * s, a[2] * s];
export const dot = (a: Given, b: Given): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: Given, b: Given): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
export const lengthOf = (a: Given): number => Math.hypot(a[0], a[1], a[2]);

/** Of length one; what has no length stays so. */
export const unit = (a: Given): Vector => {
  const length = lengthOf(a) || 1;
  return [a[0] / length, a[1] / length, a[2] / length];
};
