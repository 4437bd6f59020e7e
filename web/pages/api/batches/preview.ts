import { answer, readBody } from '#web/server/answer.ts';
import { batchWish } from '#web/server/batch-order.ts';
import { previewOf } from '#web/server/batch-preview.ts';

/** What a batch comes to; see `BatchPreview`. */
export const POST = answer(async ({ request }) => previewOf(await readBody(request, batchWish)));
