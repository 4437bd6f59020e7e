const e = (v: number): string =>
  v
    .toExponential(5)
    .replace(/e([-+])(\d)$/, 'E$10$2')
    .padStart(12);
const corner = [
  [0, 0, 0],
  [1, 0, 0],
  [1, 1, 0],
  [0, 1, 0],
  [0, 0, 1],
  [1, 0, 1],
  [1, 1, 1],
  [0, 1, 1],
];
const pad = (n: number, width = 10): string => String(n).padStart(width);
/** Results of one step: a field on the nodes 10 to 17. */
export const frdBlock = (
  step: number,
  value: number,
  name: string,
  rows: number[][],
  analysis = 0,
): string => {
  const width = rows[0].length;
  return [
    `  100CL  101${e(value)}${pad(8, 12)}${pad(analysis, 22)}${pad(step, 5)}           1`,
    ` -4  ${name.padEnd(8)}${pad(width + 1, 5)}    1`,
    ...Array.from({ length: width }, (_, k) => ` -5  C${k + 1}          1    2${pad(k + 1, 5)}    0`),
    ' -5  ALL         1    2    0    0    1ALL',
    ...rows.map((r, i) => ` -1${pad(i + 10)}${r.map(e).join('')}`),
    ' -3',
  ].join('\n');
};
/** Nodes and elements of one brick. */
const mesh = [
  '    1C',
  '    1UUSER',
  `    2C${pad(8, 30)}                                     1`,
  ...corner.map((c, i) => ` -1${pad(i + 10)}${c.map(e).join('')}`),
  ' -3',
  `    3C${pad(1, 30)}                                     1`,
  ` -1${pad(7)}    1    0    2`,
  ` -2${[10, 11, 12, 13, 14, 15, 16, 17].map((n) => pad(n)).join('')}`,
  ' -3',
];

const moved = (by: number): number[][] => corner.map((c) => c.map((v) => by * v));

/** One brick in two steps of a static analysis: displacement in both, stress in the last. */
export const brickFrd = [
  ...mesh,
  frdBlock(1, 0.5, 'DISP', moved(0.001)),
  frdBlock(2, 1, 'DISP', moved(-0.002)),
  frdBlock(
    2,
    1,
    'STRESS',
    corner.map((_, i) => [1, 2, 3, 4, 5, i]),
  ),
  ' 9999',
].join('\n');

/** One brick under a static load, and its mode shapes 7 and 8. */
export const brickModes = [
  ...mesh,
  frdBlock(1, 1, 'DISP', moved(0.001)),
  `    1PMODE${pad(7, 24)}`,
  frdBlock(2, 3012.5, 'DISP', moved(1), 2),
  `    1PMODE${pad(8, 24)}`,
  frdBlock(3, 8059, 'DISP', moved(-1), 2),
  ' 9999',
].join('\n');
