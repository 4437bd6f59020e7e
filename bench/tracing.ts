import { buildBlocks } from '#core/model/blocks.ts';
import type { MeshField } from '#core/model/field.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { type Asked, type Flow, HERE, MeshFlow } from '#core/ops/tracing/flow.ts';
import { LineTracer, type TraceLimits } from '#core/ops/tracing/trace-line.ts';
import { tetrahedra } from './made-meshes.ts';
import { compare, timed } from './measure.ts';
import { PlainFlow } from './plain-flow.ts';

const LINES = 1000;
/** The plain one is too slow for all of them; its time is said for as many. */
const PLAIN_LINES = 50;

const limits: TraceLimits = { tolerance: 1e-5, length: 3, time: 1e9, steps: 500 };

/** A swirl around the axis of the cube that rises and falls. */
function swirl(mesh: Mesh): MeshField {
  const { points: p } = mesh;
  const data = new Float32Array(p.length);
  for (let i = 0; i < p.length; i += 3) {
    const [x, y, z] = [p[i] - 0.5, p[i + 1] - 0.5, p[i + 2] - 0.5];
    data.set([-y - 0.3 * x * z, x - 0.3 * y * z, 0.3 * Math.sin(6 * x) + 0.1], i);
  }
  return { location: 'point', components: 3, axial: false, data };
}

/** Places along a flow, as it was asked for them. */
class Noted implements Flow {
  readonly places: number[] = [];
  readonly fastest: number;
  constructor(private readonly flow: Flow) {
    this.fastest = flow.fastest;
  }
  at(x: number, y: number, z: number, time: number, out: Float64Array): Asked {
    this.places.push(x, y, z);
    return this.flow.at(x, y, z, time, out);
  }
  reach = (): number => this.flow.reach();
}

function traceAll(flow: Flow, lines: number): number {
  const tracer = new LineTracer(flow, limits);
  let points = 0;
  for (let i = 0; i < lines; i++) {
    const place = [0.1 + (0.8 * i) / lines, 0.1 + 0.8 * ((i * 0.618) % 1), 0.1 + 0.8 * ((i * 0.382) % 1)];
    tracer.trace({ place, time: 0, sense: 1 }, () => points++);
  }
  return points;
}

export async function benchTracing(): Promise<void> {
  const mesh = tetrahedra(55);
  const field = swirl(mesh);
  const blocks = buildBlocks(mesh);
  const flow = new MeshFlow(mesh, blocks, field);
  const ours = timed(() => traceAll(flow, LINES), 3);

  const noted = new Noted(flow);
  traceAll(noted, LINES);
  const places = Float64Array.from(noted.places);
  const out = new Float64Array(3);
  const bare = timed(() => {
    let found = 0;
    for (let i = 0; i < places.length; i += 3)
      if (flow.at(places[i], places[i + 1], places[i + 2], 0, out) === HERE) found++;
    return found;
  }, 3);

  const plain = new PlainFlow(mesh, field.data as Float32Array);
  const slow = timed(() => traceAll(plain, PLAIN_LINES), 1) * (LINES / PLAIN_LINES);
  const cells = mesh.types.length.toLocaleString('en-GB');
  compare(`${LINES} streamlines on ${cells} tetrahedra / plain`, ours, slow, 'goal: at most 0.2');
  compare(
    `the same / its bare evaluations (${(places.length / 3).toLocaleString('en-GB')})`,
    ours,
    bare,
    'goal: at most 2',
  );
}
