import { ALONG_LINE } from '#core/fields/sources/along-line.ts';
import type { RunDescription } from '#core/model/run.ts';
import { understood } from '#core/ops/chain/understood.ts';
import type { Workpiece } from '#core/ops/chain/workpiece.ts';
import { type LineEnd, sayEnd } from '#core/ops/tracing/trace-line.ts';
import type { Layer, Scene } from '#core/scene/document.ts';
import type { ArraySource } from './array-source.ts';
import { GeometryMaker } from './geometry-maker.ts';
import { requestsOfLayer } from './layer-requests.ts';

/** A line that was followed, in the coordinates of the files. */
export interface TracedLine {
  seed: number[];
  /** Its last point along the flow; of lines followed backward alone the one farthest upstream. */
  end: number[];
  /** Why it ends there. */
  why: string;
  /** The same for its other end, where it was followed both ways. */
  begin?: number[];
  whyBegin?: string;
  length: number;
  /** From its first point to its last. */
  time: number;
  points: number[][];
  /** At its points, zero at the seed. */
  times: number[];
}

/**
 * The lines of a layer at a step, number by number.
 *
 * @throws Error in words when the layer follows no lines, or cannot
 */
export async function tracedLines(
  scene: Scene,
  layer: Layer,
  run: RunDescription,
  step: number,
  arrays: ArraySource,
): Promise<TracedLine[]> {
  const at = layer.chain.findLastIndex((s) => understood(s)?.operation.traits?.follows && !s.off);
  if (at < 0) throw new Error('This line follows no flow. Say, for example, “streamlines of velocity”.');
  // What comes after, such as tubes, gives lines a body.
  const alone = { ...layer, chain: layer.chain.slice(0, at + 1) };
  const { requests, trouble } = requestsOfLayer(alone, scene, run, step);
  if (trouble) throw new Error(trouble);
  const maker = new GeometryMaker(arrays);
  const pieces = await Promise.all(requests.map(({ request }) => maker.workpiece(request)));
  const lines = pieces.flatMap((piece) => linesOf(piece));
  const lacking = [...new Set(pieces.flatMap((p) => p.report().lacking ?? []))];
  if (lines.length === 0 && lacking.length > 0) throw new Error(`These parts have no ${lacking.join(', ')}.`);
  return lines;
}

function linesOf(piece: Workpiece): TracedLine[] {
  const { mesh, origin } = piece;
  const times = piece.made(ALONG_LINE.time);
  const lengths = piece.made(ALONG_LINE.length);
  const inFiles = (place: ArrayLike<number>): number[] => [0, 1, 2].map((k) => place[k] + origin[k]);
  const whyOf = (end: LineEnd | null): string => (end ? sayEnd(end) : '');
  return (piece.result?.fates ?? []).map(({ seed, back, ahead, first, points: n }): TracedLine => {
    const points = Array.from({ length: n }, (_, i) =>
      inFiles(mesh.points.subarray(3 * (first + i), 3 * (first + i) + 3)),
    );
    const own = Array.from({ length: n }, (_, i) => times![first + i]);
    const [head, tail] = [points[0] ?? inFiles(seed), points[n - 1] ?? inFiles(seed)];
    return {
      seed: inFiles(seed),
      end: ahead ? tail : head,
      why: whyOf(ahead ?? back),
      ...(ahead && back ? { begin: head, whyBegin: whyOf(back) } : {}),
      length: n > 0 ? lengths![first + n - 1] : 0,
      time: n > 0 ? own[n - 1] - own[0] : 0,
      points,
      times: own,
    };
  });
}
