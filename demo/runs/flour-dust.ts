import { type CollectionRow, writePvd, writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { QUAD } from '#core/model/cell-types.ts';
import { type DemoRun, SI } from '../demo-run.ts';
import { cellsOf, type Place, pointCloud, quadGrid, randomNumbers } from '../shared/grid-mesh.ts';

const GRAVITY = 9.81;
/** Of air at 20 °C, and of a grain of flour: kg/m3, Pa s. */
const AIR = 1.2;
const FLOUR = 1450;
const VISCOSITY = 1.81e-5;

/** The bench in metres: x from 0, y about the middle. */
const LENGTH = 1.2;
const HALF_WIDTH = 0.3;
const SIEVE = { x: 0.35, y: 0, z: 0.55, radius: 0.09 };
/** Three dough pieces: half cylinders across the bench. */
const DOUGH = [0.42, 0.68, 0.94].map((x) => ({ x, radius: 0.06, half: 0.17 }));

const GRAINS = 1800;
const FRAMES = 48;
const FRAME_TIME = 0.1;
const STEPS_A_FRAME = 10;

/**
 * Speed at which a sphere falls in still air: Stokes' law with the correction of Schiller and Naumann (1933) for larger
 * grains, in m/s.
 */
export function settlingSpeed(diameter: number): number {
  const stokes = ((FLOUR - AIR) * GRAVITY * diameter ** 2) / (18 * VISCOSITY);
  let speed = stokes;
  for (let n = 0; n < 40; n++) {
    const reynolds = (AIR * speed * diameter) / VISCOSITY;
    speed = 0.5 * (speed + stokes / (1 + 0.15 * reynolds ** 0.687));
  }
  return speed;
}

/** The draught along the bench: nothing at its top, and over each dough piece up and around it. */
export function draught([x, , z]: Place): Place {
  const above = Math.max(0, z);
  const along = 0.11 * (1 - Math.exp(-above / 0.05));
  let [u, w] = [along, 0];
  for (const d of DOUGH) {
    // Flow without friction around a cylinder that lies on its plane of symmetry (Lamb, Hydrodynamics, from memory).
    const [dx, dz] = [x - d.x, above];
    const square = Math.max(d.radius ** 2, dx * dx + dz * dz);
    const share = (d.radius / square) ** 2;
    u -= along * share * (dx * dx - dz * dz);
    w -= along * share * 2 * dx * dz;
  }
  return [u, 0, w];
}

/** Grains that fall out of a sieve, drift and stay where they land. */
export class FlourDust {
  readonly places: Float64Array;
  readonly speeds: Float64Array;
  readonly diameters: Float64Array;
  readonly landed: Uint8Array;
  private readonly released: Float64Array;
  private readonly falls: Float64Array;
  private readonly random = randomNumbers(11);
  time = 0;

  constructor(readonly count = GRAINS) {
    const { random } = this;
    this.places = new Float64Array(3 * count);
    this.speeds = new Float64Array(3 * count);
    this.diameters = new Float64Array(count);
    this.landed = new Uint8Array(count);
    this.released = new Float64Array(count);
    for (let i = 0; i < count; i++) {
      const [r, turn] = [SIEVE.radius * Math.sqrt(random()), 2 * Math.PI * random()];
      this.places.set([SIEVE.x + r * Math.cos(turn), SIEVE.y + r * Math.sin(turn), SIEVE.z], 3 * i);
      // Log-normal about 70 µm.
      const normal = Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
      this.diameters[i] = Math.min(160e-6, Math.max(25e-6, 70e-6 * Math.exp(0.35 * normal)));
      this.released[i] = 3 * random();
    }
    this.falls = this.diameters.map(settlingSpeed);
  }

  /** Small grains follow the air at once: they move with it, fall through it, and are shaken by its eddies. */
  advance(dt: number): void {
    const { places, speeds, random } = this;
    this.time += dt;
    for (let i = 0; i < this.count; i++) {
      if (this.landed[i] || this.time < this.released[i]) continue;
      const at = places.subarray(3 * i, 3 * i + 3);
      const air = draught([at[0], at[1], at[2]]);
      air[2] -= this.falls[i];
      const shake = Math.sqrt((2 * 3e-4) / dt);
      for (let k = 0; k < 3; k++) {
        const eddy = shake * (random() + random() + random() - 1.5) * 2;
        speeds[3 * i + k] = air[k];
        at[k] += dt * (air[k] + eddy);
      }
      if (this.lands(at)) {
        this.landed[i] = 1;
        speeds.fill(0, 3 * i, 3 * i + 3);
      }
    }
  }

  /** Puts a grain that has reached something onto it. */
  private lands(at: Float64Array): boolean {
    for (const { x, radius, half } of DOUGH) {
      const way = Math.hypot(at[0] - x, at[2]);
      if (way > radius || Math.abs(at[1]) > half) continue;
      at[0] = x + ((at[0] - x) * radius) / way;
      at[2] = (Math.max(0, at[2]) * radius) / way;
      return true;
    }
    if (at[2] > 0) return false;
    at[2] = 0;
    return true;
  }
}

const bench = () => quadGrid(48, 24, (i, j) => [(i / 48) * LENGTH, (j / 12 - 1) * HALF_WIDTH, -0.002]);

function doughPieces() {
  const points: number[] = [];
  const cells: number[][] = [];
  const [around, along] = [16, 12];
  for (const { x, radius, half } of DOUGH) {
    const first = points.length / 3;
    for (let j = 0; j <= along; j++)
      for (let i = 0; i <= around; i++) {
        const turn = (Math.PI * i) / around;
        points.push(x - radius * Math.cos(turn), ((2 * j) / along - 1) * half, radius * Math.sin(turn));
      }
    const at = (i: number, j: number): number => first + j * (around + 1) + i;
    for (let j = 0; j < along; j++)
      for (let i = 0; i < around; i++) cells.push([at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)]);
    // Its two ends, as fans of flat quadrilaterals.
    for (const j of [0, along])
      for (let i = 0; i < around / 2; i++)
        cells.push([at(i, j), at(i + 1, j), at(around - i - 1, j), at(around - i, j)]);
  }
  return cellsOf(points, cells, QUAD);
}

/** Flour dust falls from a sieve into a draught over dough pieces, and lands. */
export const flourDust: DemoRun = {
  id: 'flour-dust',
  name: 'Flour dust over the bench',
  file: 'flour-dust.pvd',
  compute(write, progress) {
    const dust = new FlourDust();
    const entries: CollectionRow[] = [];
    write('bench.vtu', writeVtu(bench(), [], null, SI));
    write('dough.vtu', writeVtu(doughPieces(), [], null, SI));
    for (let frame = 0; frame < FRAMES; frame++) {
      for (let n = 0; n < STEPS_A_FRAME; n++) dust.advance(FRAME_TIME / STEPS_A_FRAME);
      const scaled = (from: ArrayLike<number>, scale = 1): Float32Array =>
        Float32Array.from(from, (v) => scale * v);
      const speed = Float64Array.from(dust.landed, (_, i) =>
        Math.hypot(...dust.speeds.subarray(3 * i, 3 * i + 3)),
      );
      const file = `flour-dust-${String(frame + 1).padStart(2, '0')}.vtu`;
      const grains = writeVtu(
        pointCloud(dust.places),
        [
          {
            name: 'diameter',
            location: 'point',
            components: 1,
            unit: 'µm',
            data: scaled(dust.diameters, 1e6),
          },
          { name: 'speed', location: 'point', components: 1, unit: 'm/s', data: scaled(speed) },
          { name: 'landed', location: 'point', components: 1, data: scaled(dust.landed) },
        ],
        dust.time,
        SI,
      );
      write(file, grains);
      const time = Number(dust.time.toFixed(6));
      for (const [part, [name, of]] of Object.entries({
        'flour dust': file,
        bench: 'bench.vtu',
        dough: 'dough.vtu',
      }).entries())
        entries.push({ time, part, name, file: of });
      progress((frame + 1) / FRAMES);
    }
    write(this.file, writePvd(entries));
  },
};
