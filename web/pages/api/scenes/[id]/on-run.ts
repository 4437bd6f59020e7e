import { z } from '#core/model/schema.ts';
import { type Scene, sceneSchema } from '#core/scene/document.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { makeSceneOnRun } from '#web/server/scene-on-run.ts';

const scene = sceneSchema as z.ZodType<Scene>;
const body = z.object({
  run: z.string().max(200),
  document: scene,
  shots: z.array(z.object({ id: z.string().max(200), document: scene })).max(2000),
});

/** Makes the same views of another run. */
export const POST = answer(async ({ params, request }) =>
  makeSceneOnRun(params.id!, await readBody(request, body)),
);
