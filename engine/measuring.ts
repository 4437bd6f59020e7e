import type { Lacking } from '#core/measure/measure.ts';
import { measureById } from '#core/measure/registry.ts';
import { boundsInFiles, boundsOf } from '#core/model/mesh.ts';
import { needName } from '#core/ops/chain/workpiece.ts';
import type { MeasuredOn, NoReading } from '#core/scene/reading.ts';
import { type GeometryMaker, type GeometryRequest, geometryKey } from './geometry-maker.ts';
import { fieldKeyOn } from './part-sources.ts';

/** What one part of what a gauge is asked of needs at one step. */
export interface MeasureRequest {
  measure: string;
  options: object;
  of: GeometryRequest;
}

export interface MeasuredPart {
  /** What the measure gives of the part, to be joined with others, or why there is nothing. */
  part: object | Lacking;
  on: MeasuredOn;
}

/** The same key, the same answer. */
export function measureKey({ measure, options, of }: MeasureRequest): string {
  const needs = measureById(measure).needs(options);
  const fields = needs.map((need) => fieldKeyOn(of.parts, needName(need))).join();
  return `${measure}${JSON.stringify(options)}|${geometryKey(of)}|${fields}`;
}

/** Measures one part, where its arrays are. */
async function measurePart(maker: GeometryMaker, request: MeasureRequest): Promise<MeasuredPart> {
  const { options, of } = request;
  const measure = measureById(request.measure);
  const piece = await maker.workpiece(of);
  const looked = measure.looksAt?.(piece, options) ?? piece;
  // Nothing at all because an operation could not work here is no zero.
  const lacking = piece.mesh.types.length === 0 ? piece.report().lacking : undefined;
  return {
    part: lacking === undefined ? measure.ofPart(piece, options) : { lacking },
    on: {
      parts: of.parts.map((p) => p.part),
      dimension: looked.dimension,
      cells: looked.mesh.types.length,
      bounds: boundsInFiles(boundsOf(looked.mesh.points), of.origin),
    },
  };
}

/** Measures parts one after the other; what cannot be measured says why. */
export async function measureParts(
  maker: GeometryMaker,
  requests: readonly MeasureRequest[],
): Promise<(MeasuredPart | NoReading)[]> {
  const out: (MeasuredPart | NoReading)[] = [];
  for (const request of requests)
    out.push(
      await measurePart(maker, request).catch((error: unknown) => ({ trouble: (error as Error).message })),
    );
  return out;
}
