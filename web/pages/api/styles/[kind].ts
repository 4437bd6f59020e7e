import { z } from '#core/model/schema.ts';
import { answer, NotFound, readBody } from '#web/server/answer.ts';
import type { StyleKind } from '#web/server/database.ts';
import { keepStyle, keptStyles, styleKinds } from '#web/server/styles.ts';

const kindOf = (kind: string | undefined): StyleKind => {
  if (!styleKinds.some((k) => k === kind)) throw new NotFound('There is nothing of that kind.');
  return kind as StyleKind;
};

/** Looks and finishes that were kept for other scenes, templates and brands for other reports. */
export const GET = answer(({ params }) => keptStyles(kindOf(params.kind)));

/** Keeps one; it takes the place of another of its name. */
export const POST = answer(async ({ params, request }) =>
  keepStyle(kindOf(params.kind), await readBody(request, z.unknown())),
);
