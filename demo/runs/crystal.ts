import type { DemoRun } from '../demo-run.ts';
import { randomNumbers } from '../shared/grid-mesh.ts';

/** Cubic cells along each edge; four atoms each. */
const CELLS = 9;
/** Edge of a cell at rest in units of the distance at which two atoms neither pull nor push (from memory). */
const EDGE = 1.5496;
const CUTOFF = 2.5;
/** One unit of length in angstrom, of energy in electronvolt. */
const ANGSTROM = 2.3;
const ELECTRONVOLT = 0.4;
const STEP = 0.004;
const FRAMES = 30;
const STEPS_A_FRAME = 14;

/**
 * Atoms of a face-centred cubic crystal with pair forces (Lennard-Jones 1924), shifted so that energy is smooth at the
 * cutoff, in a box that repeats; moved by velocity Verlet (Swope 1982). In reduced units: mass, depth and width are one.
 */
export class Crystal {
  readonly size: number;
  readonly place: Float64Array;
  readonly speed: Float64Array;
  private readonly force: Float64Array;
  /** Potential energy of each atom: half of that of each of its pairs. */
  readonly energy: Float64Array;
  readonly neighbours: Uint8Array;
  private pairs: Uint32Array = new Uint32Array(0);
  private listed: Float64Array = new Float64Array(0);

  /** @param missing whether an atom, by the place it would have in cells, is left out */
  constructor(
    readonly cells: number,
    missing: (x: number, y: number, z: number) => boolean,
  ) {
    this.size = cells * EDGE;
    const places: number[] = [];
    for (let n = 0; n < cells ** 3; n++) {
      const corner = [n % cells, Math.floor(n / cells) % cells, Math.floor(n / cells ** 2)];
      for (const [a, b, c] of [
        [0, 0, 0],
        [0.5, 0.5, 0],
        [0.5, 0, 0.5],
        [0, 0.5, 0.5],
      ]) {
        const [x, y, z] = [corner[0] + a, corner[1] + b, corner[2] + c];
        if (!missing(x, y, z)) places.push(x * EDGE, y * EDGE, z * EDGE);
      }
    }
    this.place = Float64Array.from(places);
    this.speed = new Float64Array(places.length);
    this.force = new Float64Array(places.length);
    this.energy = new Float64Array(places.length / 3);
    this.neighbours = new Uint8Array(places.length / 3);
    this.findForces();
  }

  get count(): number {
    return this.energy.length;
  }

  /** Moves on by `dt` in reduced units of time. */
  advance(dt: number): void {
    const { place, speed, force, size } = this;
    for (let i = 0; i < place.length; i++) {
      speed[i] += (dt / 2) * force[i];
      const moved = place[i] + dt * speed[i];
      place[i] = moved < 0 ? moved + size : moved >= size ? moved - size : moved;
    }
    this.findForces();
    for (let i = 0; i < place.length; i++) speed[i] += (dt / 2) * force[i];
  }

  totalEnergy(): number {
    return this.energy.reduce((a, b) => a + b, 0) + this.speed.reduce((a, v) => a + (v * v) / 2, 0);
  }

  private findForces(): void {
    if (this.hasMoved()) this.listPairs();
    const { place, force, energy, neighbours, pairs, size } = this;
    force.fill(0);
    energy.fill(0);
    neighbours.fill(0);
    const end = CUTOFF ** -6;
    const atCutoff = 4 * (end * end - end);
    const half = size / 2;
    for (let p = 0; p < pairs.length; p += 2) {
      const [a, b] = [3 * pairs[p], 3 * pairs[p + 1]];
      let dx = place[a] - place[b];
      let dy = place[a + 1] - place[b + 1];
      let dz = place[a + 2] - place[b + 2];
      if (dx > half) dx -= size;
      else if (dx < -half) dx += size;
      if (dy > half) dy -= size;
      else if (dy < -half) dy += size;
      if (dz > half) dz -= size;
      else if (dz < -half) dz += size;
      const square = dx * dx + dy * dy + dz * dz;
      if (square >= CUTOFF * CUTOFF) continue;
      const six = 1 / square ** 3;
      const pull = (24 * (2 * six * six - six)) / square;
      force[a] += pull * dx;
      force[a + 1] += pull * dy;
      force[a + 2] += pull * dz;
      force[b] -= pull * dx;
      force[b + 1] -= pull * dy;
      force[b + 2] -= pull * dz;
      const share = 2 * (six * six - six) - atCutoff / 2;
      energy[a / 3] += share;
      energy[b / 3] += share;
      // Halfway to the second shell of neighbours.
      if (square < 1.32 * 1.32) {
        neighbours[a / 3]++;
        neighbours[b / 3]++;
      }
    }
  }

  /** Whether an atom has moved so far that a pair may have come within reach unlisted. */
  private hasMoved(): boolean {
    const { place, listed, size } = this;
    if (listed.length === 0) return true;
    for (let i = 0; i < place.length; i += 3) {
      let way = 0;
      for (let k = i; k < i + 3; k++) {
        const d = Math.abs(place[k] - listed[k]);
        way += Math.min(d, size - d) ** 2;
      }
      if (way > 0.15 ** 2) return true;
    }
    return false;
  }

  /** Pairs within reach and a little more, by boxes at least as wide as that (Verlet 1967). */
  private listPairs(): void {
    const { place, size } = this;
    const reach = CUTOFF + 0.32;
    const n = Math.max(1, Math.floor(size / reach));
    const box = (v: number): number => Math.min(n - 1, Math.floor(((((v % size) + size) % size) / size) * n));
    const boxes: number[][] = Array.from({ length: n ** 3 }, () => []);
    const boxOf = (i: number): number[] => [0, 1, 2].map((k) => box(place[3 * i + k]));
    for (let i = 0; i < this.count; i++) {
      const [x, y, z] = boxOf(i);
      boxes[(z * n + y) * n + x].push(i);
    }
    const pairs: number[] = [];
    for (let i = 0; i < this.count; i++) {
      const [x, y, z] = boxOf(i);
      const around = new Set<number>();
      for (let d = 0; d < 27; d++) {
        const [a, b, c] = [x + (d % 3) - 1, y + (Math.floor(d / 3) % 3) - 1, z + Math.floor(d / 9) - 1].map(
          (v) => (v + n) % n,
        );
        around.add((c * n + b) * n + a);
      }
      for (const at of around)
        for (const j of boxes[at]) {
          if (j <= i) continue;
          let square = 0;
          for (let k = 0; k < 3; k++) {
            const d = place[3 * i + k] - place[3 * j + k];
            square += (d - size * Math.round(d / size)) ** 2;
          }
          if (square < reach * reach) pairs.push(i, j);
        }
    }
    this.pairs = Uint32Array.from(pairs);
    this.listed = place.slice();
  }
}

/** The crystal with a row of six atoms missing in its middle, a little warm, and one atom struck. */
export function struckCrystal(): Crystal {
  const middle = Math.floor(CELLS / 2);
  const crystal = new Crystal(
    CELLS,
    (x, y, z) => y === middle && z === middle && Number.isInteger(x) && Math.abs(x - middle) < 3.5,
  );
  const random = randomNumbers(7);
  for (let i = 0; i < crystal.speed.length; i++) crystal.speed[i] = 0.25 * (random() - 0.5);
  // Along a close-packed direction, so that the blow travels.
  let struck = 0;
  let nearest = Number.POSITIVE_INFINITY;
  for (let i = 0; i < crystal.count; i++) {
    const d = Math.hypot(...[0, 1, 2].map((k) => crystal.place[3 * i + k] - (k === 2 ? 6.5 : 1.5) * EDGE));
    if (d < nearest) [struck, nearest] = [i, d];
  }
  crystal.speed[3 * struck] += 16;
  crystal.speed[3 * struck + 1] += 16;
  return crystal;
}

/** A frame in extended XYZ. */
function frameText(crystal: Crystal, time: number): string {
  const { count, size, place, speed, energy, neighbours } = crystal;
  const edge = (size * ANGSTROM).toFixed(4);
  const lines = [
    String(count),
    `Lattice="${edge} 0 0 0 ${edge} 0 0 0 ${edge}" Properties=species:S:1:pos:R:3:motion:R:1:binding:R:1:neighbours:I:1 Time=${time.toFixed(3)}`,
  ];
  for (let i = 0; i < count; i++) {
    const at = [0, 1, 2].map((k) => ((((place[3 * i + k] % size) + size) % size) * ANGSTROM).toFixed(3));
    const motion = ((speed[3 * i] ** 2 + speed[3 * i + 1] ** 2 + speed[3 * i + 2] ** 2) / 2) * ELECTRONVOLT;
    lines.push(
      `X ${at.join(' ')} ${motion.toFixed(4)} ${(energy[i] * ELECTRONVOLT).toFixed(4)} ${neighbours[i]}`,
    );
  }
  return `${lines.join('\n')}\n`;
}

/** A blow runs through a crystal in which a row of atoms is missing. */
export const crystal: DemoRun = {
  id: 'crystal',
  name: 'Crystal with a missing row',
  file: 'crystal.extxyz',
  choices: { units: { 'point:motion': 'eV', 'point:binding': 'eV' }, lengthUnit: 'Å', timeUnit: 'ps' },
  compute(write, progress) {
    const atoms = struckCrystal();
    // The mass of an atom of iron, 55.8 u: the unit of time is the width times the root of mass over depth.
    const picoseconds = ANGSTROM * Math.sqrt((55.8 * 1.0364e-4) / ELECTRONVOLT);
    const frames: string[] = [];
    for (let frame = 0; frame < FRAMES; frame++) {
      for (let n = 0; frame > 0 && n < STEPS_A_FRAME; n++) atoms.advance(STEP);
      frames.push(frameText(atoms, frame * STEPS_A_FRAME * STEP * picoseconds));
      progress((frame + 1) / FRAMES);
    }
    write(this.file, frames.join(''));
  },
};
