import { writePvd, writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { DemoRun } from '../demo-run.ts';
import { solveBanded } from '../shared/complex-band.ts';
import { hexGrid } from '../shared/grid-mesh.ts';

const LIGHT_SPEED = 299_792_458;
/** Grid of nodes over the chamber, whose field does not change over its height. */
const NX = 96;
const NY = 66;
const SPACING = 0.0055;
const HEIGHT = 0.09;
const LAYERS = 5;
/** The opening that the waves come through, in the wall x = 0. */
const PORT: [number, number] = [25, 41];
/** Dough, wet: permittivity and loss (invented). */
const DOUGH = { re: 9, im: -3.2 };
const FREQUENCIES = Array.from({ length: 11 }, (_, i) => 2.4e9 + i * 1e7);
/** Amplitude of the wave that comes in, V/m. */
const INCOMING = 4000;

/** Three rolls across the chamber. */
const ROLLS = [
  { x: 0.2, y: 0.12, radius: 0.045 },
  { x: 0.2, y: 0.25, radius: 0.045 },
  { x: 0.38, y: 0.185, radius: 0.055 },
];
const inDough = (x: number, y: number): boolean => ROLLS.some((r) => Math.hypot(x - r.x, y - r.y) < r.radius);

/**
 * The electric field along z in a chamber with conducting walls, from Helmholtz' equation by finite differences. Where
 * the waves come in, the first mode of the opening goes in and comes back out (port condition; Jin, The Finite Element
 * Method in Electromagnetics, from memory).
 *
 * @param permittivity relative, at a place: its parts with time running as e^(iωt)
 * @returns real and imaginary part on `(nx + 1) (ny + 1)` nodes, x first
 */
export function chamberField(
  frequency: number,
  permittivity: (x: number, y: number) => { re: number; im: number },
  { nx = NX, ny = NY, spacing = SPACING, port = PORT } = {},
): { re: Float64Array; im: Float64Array } {
  const wave = (2 * Math.PI * frequency) / LIGHT_SPEED;
  const width = (port[1] - port[0]) * spacing;
  const guide = Math.sqrt(Math.max(0, wave ** 2 - (Math.PI / width) ** 2));
  const h = spacing;
  // Unknowns: the nodes within, and those of the opening; numbered across y first, so that the band is narrow.
  const band = ny + 1;
  const n = (nx + 1) * (ny + 1);
  const at = (i: number, j: number): number => i * (ny + 1) + j;
  const open = (i: number, j: number): boolean => i === 0 && j > port[0] && j < port[1];
  const wall = (i: number, j: number): boolean => (i === 0 && !open(i, j)) || i === nx || j === 0 || j === ny;
  const { field } = solveBanded(n, band, (set) => {
    for (let i = 0; i <= nx; i++)
      for (let j = 0; j <= ny; j++) {
        const row = at(i, j);
        if (wall(i, j)) {
          set.entry(row, row, 1, 0);
          continue;
        }
        const { re, im } = permittivity(i * h, j * h);
        const square = wave ** 2 * h ** 2;
        const inside = open(i, j) ? 2 : 1;
        set.entry(row, row, -4 + square * re, square * im + (open(i, j) ? -2 * guide * h : 0));
        for (const [di, dj, weight] of [
          [1, 0, inside],
          [-1, 0, 1],
          [0, 1, 1],
          [0, -1, 1],
        ])
          if (i + di >= 0 && !wall(i + di, j + dj)) set.entry(row, at(i + di, j + dj), weight, 0);
        if (open(i, j)) {
          const mode = Math.sin((Math.PI * (j - port[0])) / (port[1] - port[0]));
          set.right(row, 0, -4 * guide * h * INCOMING * mode);
        }
      }
  });
  const turned = (of: Float64Array): Float64Array =>
    Float64Array.from({ length: n }, (_, p) => of[at(p % (nx + 1), Math.floor(p / (nx + 1)))]);
  return { re: turned(field.re), im: turned(field.im) };
}

/** Waves in a drying chamber with three dough rolls, over the frequencies its generator may have. */
export const microwaveChamber: DemoRun = {
  id: 'microwave-chamber',
  name: 'Microwave drying chamber',
  file: 'microwave-chamber.pvd',
  choices: { timeUnit: 'GHz', lengthUnit: 'm', stepKind: 'frequency' },
  compute(write, progress) {
    const grid = (wanted: (x: number, y: number) => boolean) =>
      hexGrid(
        NX,
        NY,
        LAYERS,
        (i, j, k) => [i * SPACING, j * SPACING, (k / LAYERS) * HEIGHT],
        (i, j) => wanted((i + 0.5) * SPACING, (j + 0.5) * SPACING),
      );
    const parts = [
      { name: 'chamber', mesh: grid((x, y) => !inDough(x, y)) },
      { name: 'dough', mesh: grid(inDough) },
    ];
    const rows = [];
    for (const [step, frequency] of FREQUENCIES.entries()) {
      const { re, im } = chamberField(frequency, (x, y) => (inDough(x, y) ? DOUGH : { re: 1, im: 0 }));
      const loss = re.map((v, p) => {
        const [x, y] = [(p % (NX + 1)) * SPACING, Math.floor(p / (NX + 1)) * SPACING];
        // Half of ω ε0 times the loss factor times the square of the amplitude, in kW/m3.
        const factor = inDough(x, y) ? -DOUGH.im : 0;
        return (Math.PI * frequency * 8.854e-12 * factor * (v * v + im[p] ** 2)) / 1000;
      });
      const time = Number((frequency / 1e9).toFixed(3));
      for (const [part, { name, mesh }] of parts.entries()) {
        const everywhere = (flat: Float64Array): Float32Array =>
          Float32Array.from({ length: mesh.points.length / 3 }, (_, p) => {
            const [i, j] = [0, 1].map((k) => Math.round(mesh.points[3 * p + k] / SPACING));
            return flat[j * (NX + 1) + i];
          });
        const file = `${name}-${String(step + 1).padStart(2, '0')}.vtu`;
        const fields = [
          { name: 'field_re', location: 'point' as const, components: 1, unit: 'V/m', data: everywhere(re) },
          { name: 'field_im', location: 'point' as const, components: 1, unit: 'V/m', data: everywhere(im) },
          {
            name: 'heating',
            location: 'point' as const,
            components: 1,
            unit: 'kW/m³',
            data: everywhere(loss),
          },
        ];
        write(file, writeVtu(mesh, name === 'dough' ? fields : fields.slice(0, 2), time, { length: 'm' }));
        rows.push({ time, part, name, file });
      }
      progress((step + 1) / FREQUENCIES.length);
    }
    write(this.file, writePvd(rows));
  },
};
