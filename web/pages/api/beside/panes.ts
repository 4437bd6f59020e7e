import { answer, readBody } from '#web/server/answer.ts';
import { panesOf, paneWish } from '#web/server/side-by-sides.ts';

/** Panes to be laid beside others; nothing is kept of them. */
export const POST = answer(async ({ request }) => panesOf(await readBody(request, paneWish)));
