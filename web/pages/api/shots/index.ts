import { answer } from '#web/server/answer.ts';
import { listedShots } from '#web/server/listed-shots.ts';

/** All shots of all scenes. */
export const GET = answer(listedShots);
