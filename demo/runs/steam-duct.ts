import { type CollectionRow, writePvd, writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { type DemoRun, SI } from '../demo-run.ts';
import { hexGrid, type Place } from '../shared/grid-mesh.ts';

/** Half the side of the square duct, and the radius of the middle of its bend, in metres. */
const HALF = 0.06;
const BEND = 0.22;
const STRAIGHT = [0.35, 0.5];
const ACROSS = 14;
const ALONG = 96;
const PARTITIONS = 4;
const MEAN_SPEED = 1.1;
const STEAM = 104;
const COLD = 24;
/** Spread across the stream by small eddies, m2/s, and loss through the walls, 1/s next to them. */
const SPREAD = 6e-4;
const LOSS = 1.6;
const FRAMES = 20;
const FRAME_TIME = 0.08;

const LENGTH = STRAIGHT[0] + (BEND * Math.PI) / 2 + STRAIGHT[1];

/** A place in the duct: so far along its middle, a to the outside of the bend and b up, both -1..1. */
export function placeInDuct(along: number, a: number, b: number): Place {
  const [first] = STRAIGHT;
  const z = HALF * b;
  if (along <= first) return [along, -HALF * a, z];
  const turn = Math.min(Math.PI / 2, (along - first) / BEND);
  const radius = BEND + HALF * a;
  const rest = Math.max(0, along - first - (BEND * Math.PI) / 2);
  return [first + radius * Math.sin(turn), BEND - radius * Math.cos(turn) + rest, z];
}

/** Share of the mean speed in developed slow flow through a square (series of Boussinesq 1868, first terms), mean one. */
export function squareProfile(a: number, b: number): number {
  let sum = 0;
  for (let n = 1; n < 12; n += 2)
    sum +=
      ((-1) ** ((n - 1) / 2) / n ** 3) *
      (1 - Math.cosh((n * Math.PI * b) / 2) / Math.cosh((n * Math.PI) / 2)) *
      Math.cos((n * Math.PI * a) / 2);
  // Its peak is 2.096 times its mean (Shah and London 1978, from memory).
  return (2.096 * sum) / 0.5713;
}

/** How far round the bend a place is, 0 before and after it. */
const bent = (along: number): number => {
  const t = (along - STRAIGHT[0]) / ((BEND * Math.PI) / 2);
  return t > 0 && t < 1.6
    ? Math.sin(Math.min(1, t / 0.4) * (Math.PI / 2)) * Math.max(0, Math.min(1, (1.6 - t) / 0.6))
    : 0;
};

/** Steam that fills a cold duct: along the stream with the flow, across it by eddies, out through the walls. */
export class SteamDuct {
  readonly temperature = new Float64Array(ALONG * ACROSS * ACROSS).fill(COLD);
  /** Along the duct, in m/s. */
  readonly speed: Float64Array;
  time = 0;

  constructor() {
    this.speed = Float64Array.from(this.temperature, (_, c) => {
      // The fast core drifts outward in the bend.
      const a = centre(c % ACROSS) - 0.25 * bent(middle(Math.floor(c / ACROSS ** 2)));
      const b = centre(Math.floor(c / ACROSS) % ACROSS);
      return MEAN_SPEED * Math.max(0.05, squareProfile(Math.max(-1, Math.min(1, a)), b));
    });
  }

  advance(dt: number): void {
    const before = this.temperature.slice();
    const step = LENGTH / ALONG;
    const side = (2 * HALF) / ACROSS;
    const at = (i: number, j: number, k: number): number => (i * ACROSS + k) * ACROSS + j;
    for (let i = 0; i < ALONG; i++)
      for (let k = 0; k < ACROSS; k++)
        for (let j = 0; j < ACROSS; j++) {
          const own = before[at(i, j, k)];
          const u = this.speed[at(i, j, k)];
          // From upstream only, so that nothing gets hotter than the steam.
          const upstream = i > 0 ? before[at(i - 1, j, k)] : STEAM;
          let change = (u * (upstream - own)) / step;
          let walls = 0;
          for (const [dj, dk] of [
            [1, 0],
            [-1, 0],
            [0, 1],
            [0, -1],
          ]) {
            const [m, n] = [j + dj, k + dk];
            if (m < 0 || n < 0 || m >= ACROSS || n >= ACROSS) walls++;
            else change += (SPREAD * (before[at(i, m, n)] - own)) / side ** 2;
          }
          change -= walls * LOSS * (own - COLD);
          const swirl = 0.9 * MEAN_SPEED * bent(middle(i));
          if (swirl > 0) change += this.turnOver(before, i, j, k, swirl / HALF);
          this.temperature[at(i, j, k)] = own + dt * change;
        }
    this.time += dt;
  }

  /** The pair of eddies a bend makes (Dean 1928) carries warm steam from the middle outward and back along the walls. */
  private turnOver(t: Float64Array, i: number, j: number, k: number, rate: number): number {
    const at = (m: number, n: number): number => (i * ACROSS + n) * ACROSS + m;
    const [v, w] = eddies(centre(j), centre(k));
    const half = 2 / ACROSS;
    const own = t[at(j, k)];
    const [m, n] = [v > 0 ? j - 1 : j + 1, w > 0 ? k - 1 : k + 1];
    const from = (far: number, value: () => number): number => (far < 0 || far >= ACROSS ? own : value());
    return (
      (rate * Math.abs(v) * (from(m, () => t[at(m, k)]) - own)) / half +
      (rate * Math.abs(w) * (from(n, () => t[at(j, n)]) - own)) / half
    );
  }
}

const centre = (j: number): number => (2 * (j + 0.5)) / ACROSS - 1;

/** Way along the duct to the middle of a slice of cells. */
const middle = (i: number): number => ((i + 0.5) / ALONG) * LENGTH;

/** Two counter-rotating eddies in a square, free of divergence: the curl of a stream function that ends at the walls. */
export function eddies(a: number, b: number): [number, number] {
  const shape = (1 - a * a) ** 2;
  const across = b * (1 - b * b) ** 2;
  return [0.7 * shape * ((1 - b * b) ** 2 - 4 * b * b * (1 - b * b)), 0.7 * 4 * a * (1 - a * a) * across];
}

/** Steam fills a duct with a bend; the mesh comes in four partitions, as solvers on several processors leave it. */
export const steamDuct: DemoRun = {
  id: 'steam-duct',
  name: 'Steam duct in four partitions',
  file: 'steam-duct.pvd',
  compute(write, progress) {
    const duct = new SteamDuct();
    const rows: CollectionRow[] = [];
    const per = ALONG / PARTITIONS;
    for (let frame = 0; frame < FRAMES; frame++) {
      for (let n = 0; n < 40; n++) duct.advance(FRAME_TIME / 40);
      const time = Number(duct.time.toFixed(6));
      const number = String(frame + 1).padStart(2, '0');
      for (let part = 0; part < PARTITIONS; part++)
        write(`steam-duct-${number}-${part}.vtu`, partition(duct, part * per, (part + 1) * per));
      write(
        `steam-duct-${number}.pvtu`,
        partitionsList(Array.from({ length: PARTITIONS }, (_, p) => `steam-duct-${number}-${p}.vtu`)),
      );
      rows.push({ time, part: 0, name: 'steam', file: `steam-duct-${number}.pvtu` });
      progress((frame + 1) / FRAMES);
    }
    write(this.file, writePvd(rows));
  },
};

function partition(duct: SteamDuct, from: number, to: number): Uint8Array {
  const mesh = hexGrid(ACROSS, ACROSS, to - from, (i, j, k) =>
    placeInDuct(((from + k) / ALONG) * LENGTH, (2 * i) / ACROSS - 1, (2 * j) / ACROSS - 1),
  );
  const n = mesh.types.length;
  const temperature = new Float32Array(n);
  const velocity = new Float32Array(3 * n);
  let c = 0;
  for (let i = from; i < to; i++)
    for (let k = 0; k < ACROSS; k++)
      for (let j = 0; j < ACROSS; j++, c++) {
        temperature[c] = duct.temperature[(i * ACROSS + k) * ACROSS + j];
        const along = middle(i);
        const speed = duct.speed[(i * ACROSS + k) * ACROSS + j];
        const [a, b] = [centre(j), centre(k)];
        const turn = Math.min(Math.PI / 2, Math.max(0, (along - STRAIGHT[0]) / BEND));
        const swirl = 0.9 * MEAN_SPEED * bent(along);
        const [out, up] = eddies(a, b).map((e) => swirl * e);
        velocity.set(
          [speed * Math.cos(turn) + out * Math.sin(turn), speed * Math.sin(turn) - out * Math.cos(turn), up],
          3 * c,
        );
      }
  return writeVtu(
    mesh,
    [
      { name: 'temperature', location: 'cell', components: 1, unit: '°C', data: temperature },
      { name: 'velocity', location: 'cell', components: 3, unit: 'm/s', data: velocity },
    ],
    Number(duct.time.toFixed(6)),
    SI,
  );
}

/** A VTK XML list of partitions. */
function partitionsList(files: string[]): string {
  const arrays =
    '<PPoints><PDataArray type="Float32" Name="Points" NumberOfComponents="3"/></PPoints><PCellData><PDataArray type="Float32" Name="temperature" NumberOfComponents="1"/><PDataArray type="Float32" Name="velocity" NumberOfComponents="3"/></PCellData>';
  const pieces = files.map((f) => `<Piece Source="${f}"/>`).join('');
  return `<?xml version="1.0"?>\n<VTKFile type="PUnstructuredGrid" version="1.0" byte_order="LittleEndian">\n<PUnstructuredGrid GhostLevel="0">${arrays}${pieces}</PUnstructuredGrid>\n</VTKFile>\n`;
}
