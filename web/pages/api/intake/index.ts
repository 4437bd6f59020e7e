import { answer } from '#web/server/answer.ts';
import { beginIntake } from '#web/server/intake.ts';

export const POST = answer(async () => ({ id: beginIntake() }));
