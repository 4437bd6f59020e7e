import type { RunDescription } from '#core/model/run.ts';
import { sceneMismatches } from '#core/scene/apply-scene.ts';
import { readScene } from '#core/scene/document.ts';
import type { SceneSource } from '#engine/scene-source.ts';
import { ask } from '#engine/server-requests.ts';
import { png } from '#stage/pictures/png.ts';
import { Stage } from '#stage/stage.ts';
import { developScene } from '#web/desks/give-out/darkroom.ts';
import { dataAddress } from '#web/desks/shared/data-address.ts';
import { geometryPool, pooledSource } from '#web/desks/stage/geometry-pool.ts';

export interface RenderOrder {
  run: string;
  /** A scene document, or null for the one the run would open with. */
  scene: unknown;
  step: number;
  /** Where in its cycle the scene is; null for where it was. */
  phase?: number | null;
  width: number;
  height: number;
  transparent: boolean;
  passes: number;
  /** See `PictureOptions`. */
  tile?: number;
}

export interface RenderAnswer {
  /** PNG as a data address. */
  picture: string;
  mismatches: string[];
}

const stage = new Stage(document.querySelector<HTMLCanvasElement>('#stage')!);
const pool = geometryPool();
const sources = new Map<string, Promise<SceneSource>>();

/** Called by the command line: one picture of one step. */
async function render(order: RenderOrder): Promise<RenderAnswer> {
  let known = sources.get(order.run);
  if (!known) {
    known = ask<{ description: RunDescription }>(`/api/runs/${order.run}`).then((r) =>
      pooledSource(r.description, pool, order.run),
    );
    sources.set(order.run, known);
  }
  const source = await known;
  const read = readScene(order.scene);
  const { phase = null } = order;
  const scene = phase === null ? read : { ...read, cycle: { ...read.cycle, phase } };
  const picture = await developScene(stage, source, scene, order.step, order);
  return {
    picture: await dataAddress(await png.write(picture)),
    mismatches: sceneMismatches(scene, source.run),
  };
}

Object.assign(window, { dresserRender: render });
