import { answer } from '#web/server/answer.ts';
import { startPreview } from '#web/server/intake.ts';

export const POST = answer(async ({ params }) => ({ job: startPreview(params.id!) }));
