import type { FinishOf } from '#core/light/own-finish.ts';
import type { SurfaceMark } from '#core/model/mark.ts';
import type { Bounds } from '#core/model/mesh.ts';
import type { RunDescription } from '#core/model/run.ts';
import { unit, type Vector } from '#core/model/vectors.ts';
import { fitCamera } from '#core/scene/camera.ts';
import type { Scene } from '#core/scene/document.ts';
import { emptyScene } from '#core/scene/empty-scene.ts';
import { freshLayer } from '#core/scene/read-layer.ts';
import type { Frame } from '#engine/scene-source.ts';

/** Outline of the body on which finishes are shown, from its top to its foot: a knob on a foot, round, hollow and sharp. */
const OUTLINE: [number, number][] = [
  ...arc(0, 0.62, 0.36, 90, -52),
  ...arc(0.36, 0.225, 0.12, 150, 200).map(([r, z]): [number, number] => [Math.max(0.18, r), z]),
  [0.42, 0.12],
  [0.46, 0.08],
  [0.46, 0],
];
const AROUND = 64;

function arc(r: number, z: number, radius: number, from: number, to: number): [number, number][] {
  return Array.from({ length: 25 }, (_, i) => {
    const angle = ((from + ((to - from) * i) / 24) * Math.PI) / 180;
    return [r + radius * Math.cos(angle), z + radius * Math.sin(angle)];
  });
}

function knob(): SurfaceMark {
  const [rows, positions, normals, triangles] = [
    OUTLINE.length,
    [] as number[],
    [] as number[],
    [] as number[],
  ];
  for (const [i, [r, z]] of OUTLINE.entries()) {
    const [before, after] = [OUTLINE[Math.max(0, i - 1)], OUTLINE[Math.min(rows - 1, i + 1)]];
    const [dr, dz] = [after[0] - before[0], after[1] - before[1]];
    for (let k = 0; k < AROUND; k++) {
      const turn = (2 * Math.PI * k) / AROUND;
      positions.push(0.5 + r * Math.cos(turn), 0.5 + r * Math.sin(turn), z);
      normals.push(...unit([-dz * Math.cos(turn), -dz * Math.sin(turn), dr] as Vector));
    }
  }
  for (let i = 0; i + 1 < rows; i++)
    for (let k = 0; k < AROUND; k++) {
      const next = (k + 1) % AROUND;
      const [a, b, c, d] = [i * AROUND + k, i * AROUND + next, (i + 1) * AROUND + k, (i + 1) * AROUND + next];
      triangles.push(a, c, b, b, c, d);
    }
  return {
    kind: 'surface',
    positions: Float32Array.from(positions),
    normals: Float32Array.from(normals),
    triangles: Uint32Array.from(triangles),
    cells: new Uint32Array(triangles.length / 3),
    edges: new Uint32Array(0),
    shades: null,
  };
}

const BOUNDS: Bounds = [0, 1, 0, 1, 0, 1];

const run: RunDescription = {
  version: 1,
  name: 'sample',
  dimension: 3,
  origin: [0, 0, 0],
  timeUnit: null,
  lengthUnit: null,
  parts: [],
  steps: [{ index: 0, time: 0, kind: 'time', number: 1 }],
  fields: [],
  sets: [],
  tables: [],
  parameters: {},
  measured: {},
  warnings: [],
  notes: [],
  sources: [],
  source: null,
};

const LAYER = 'sample';

/** A small body alone, on which finishes are shown. */
export const sampleFrame = (): Frame => ({
  run,
  step: 0,
  parts: [
    {
      layer: LAYER,
      part: LAYER,
      key: LAYER,
      shape: { marks: [knob()], bounds: BOUNDS, report: {} },
      values: [null],
      edgeValues: [null],
      spread: null,
      picture: null,
    },
  ],
  bounds: BOUNDS,
  news: {},
  attached: {},
  readings: {},
  curves: {},
});

/** That body in a finish; its colour is one that painters show their paints in. */
export function sampleScene(finish: FinishOf): Scene {
  const empty = emptyScene('sample');
  return {
    ...empty,
    layers: [{ ...freshLayer(run, LAYER), finish, colour: { kind: 'plain', colour: '#a6483a' } }],
    light: { ...empty.light, rig: 'product' },
    floor: { ...empty.floor, kind: 'none' },
    camera: fitCamera(
      BOUNDS,
      [0.35, -1, 0.42],
      [0, 0, 1],
      1,
      { projection: 'perspective', fieldOfView: 24 },
      0.86,
    ),
  };
}
