import { writePvd, writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { DemoRun } from '../demo-run.ts';
import type { Place } from '../shared/grid-mesh.ts';
import { QuadraticBar } from '../shared/quadratic-bar.ts';

/** Radius of the rod, of its bend, and the lengths before and behind it, in metres. */
const ROD = 0.006;
const BEND = 0.024;
const SHANK = 0.07;
const TIP = 0.022;
const TURN = Math.PI * 1.05;
const LENGTH = SHANK + BEND * TURN + TIP;
const ALONG = 40;
const ACROSS = 3;

/** A square -1..1 bent into a disc (elliptical mapping; Fong 2015, from memory). */
const onDisc = (a: number, b: number): [number, number] => [
  a * Math.sqrt(1 - (b * b) / 2),
  b * Math.sqrt(1 - (a * a) / 2),
];

/** A place in the hook: it hangs down from its held end and turns up again. */
function placeInHook(a: number, b: number, s: number): Place {
  // Turned so that across, across and along are right-handed on a way that begins downward.
  const [u, v] = onDisc(a, -b).map((c) => ROD * c);
  const way = s * LENGTH;
  if (way < SHANK) return [u, v, -way];
  const turn = Math.min(TURN, (way - SHANK) / BEND);
  const rest = Math.max(0, way - SHANK - BEND * TURN);
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  return [BEND - (BEND - u) * cos + sin * rest, v, -SHANK - (BEND - u) * sin + -cos * rest];
}

const hook = () => new QuadraticBar(placeInHook, ACROSS, ALONG);

/** Nodes on which a rack rests: inside the bend, around an angle of it. */
function resting(bar: QuadraticBar, turn: number): number[] {
  const slice = Math.round((2 * ALONG * (SHANK + BEND * turn)) / LENGTH);
  return bar.slices
    .slice(slice - 2, slice + 3)
    .flat()
    .filter((p) => {
      const [x, , z] = bar.mesh.points.subarray(3 * p, 3 * p + 3);
      return Math.hypot(x - BEND, z + SHANK) < BEND - 0.6 * ROD;
    });
}

/** The rack slides along the hook: nine places of its load. */
export const rackHookLoad: DemoRun = {
  id: 'rack-hook-load',
  name: 'Rack hook under load',
  file: 'rack-hook-load.pvd',
  choices: { lengthUnit: 'm', stepKind: 'load case' },
  compute(write, progress) {
    const bar = hook();
    const rows = [];
    const cases = 9;
    for (let n = 0; n < cases; n++) {
      const on = resting(bar, 0.9 + (n / (cases - 1)) * 1.7);
      const force = new Float64Array(bar.mesh.points.length);
      for (const p of on) force[3 * p + 2] = -180 / on.length;
      const moved = bar.under(force);
      const stress = bar.stress(moved);
      const file = `rack-hook-load-${n + 1}.vtu`;
      const content = writeVtu(
        bar.mesh,
        [
          {
            name: 'displacement',
            location: 'point',
            components: 3,
            unit: 'm',
            data: Float32Array.from(moved),
          },
          { name: 'stress', location: 'point', components: 6, unit: 'MPa', data: stress.map((v) => v / 1e6) },
          { name: 'von Mises stress', location: 'point', components: 1, unit: 'MPa', data: vonMises(stress) },
        ],
        n + 1,
        { length: 'm' },
      );
      write(file, content);
      rows.push({ time: n + 1, part: 0, name: 'rack hook', file });
      progress((n + 1) / cases);
    }
    write(this.file, writePvd(rows));
  },
};

/** Equivalent stress in MPa (von Mises 1913). */
function vonMises(stress: Float64Array): Float32Array {
  return Float32Array.from({ length: stress.length / 6 }, (_, p) => {
    const [x, y, z, xy, yz, xz] = stress.subarray(6 * p, 6 * p + 6);
    const square = ((x - y) ** 2 + (y - z) ** 2 + (z - x) ** 2) / 2 + 3 * (xy * xy + yz * yz + xz * xz);
    return Math.sqrt(square) / 1e6;
  });
}

/** How the hook swings by itself. */
export const rackHookModes: DemoRun = {
  id: 'rack-hook-modes',
  name: 'Rack hook, its modes',
  file: 'rack-hook-modes.pvd',
  choices: { lengthUnit: 'm', timeUnit: 'Hz', stepKind: 'mode' },
  compute(write, progress) {
    const bar = hook();
    const rows = [];
    for (const [n, { frequency, shape }] of bar.modes(6).entries()) {
      const file = `rack-hook-mode-${n + 1}.vtu`;
      const time = Number(frequency.toFixed(2));
      write(
        file,
        writeVtu(
          bar.mesh,
          [{ name: 'displacement', location: 'point', components: 3, data: Float32Array.from(shape) }],
          time,
          { length: 'm' },
        ),
      );
      rows.push({ time, part: 0, name: 'rack hook', file });
      progress((n + 1) / 6);
    }
    write(this.file, writePvd(rows));
  },
};
