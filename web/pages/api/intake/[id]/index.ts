import { answer } from '#web/server/answer.ts';
import { endIntake } from '#web/server/intake.ts';

export const DELETE = answer(async ({ params }) => endIntake(params.id!));
