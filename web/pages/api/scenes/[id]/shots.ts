import { z } from '#core/model/schema.ts';
import { sceneSchema } from '#core/scene/document.ts';
import { shotKinds } from '#core/scene/shot-groups.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { keepShot, openScene, orderShots } from '#web/server/scenes.ts';
import { thumbnailSchema } from '#web/server/thumbnail.ts';

const body = z.object({
  name: z.string().min(1).max(200),
  document: sceneSchema,
  thumbnail: thumbnailSchema,
  kind: z.enum(shotKinds).optional(),
  filmTime: z.number().min(0).nullable().optional(),
});
const order = z.object({ order: z.array(z.string().max(200)).max(10_000) });

/** The shots of a scene, in their order. */
export const GET = answer(async ({ params }) => (await openScene(params.id!)).shots);

export const POST = answer(async ({ params, request }) =>
  keepShot(params.id!, await readBody(request, body)),
);

/** Puts them in an order. */
export const PUT = answer(async ({ params, request }) =>
  orderShots(params.id!, (await readBody(request, order)).order),
);
