import { answer } from '#web/server/answer.ts';
import { thumbnailOfShot } from '#web/server/listed-shots.ts';
import { pictureOfAddress } from '#web/server/thumbnail.ts';

/** The small picture of a shot as a file. */
export const GET = answer(async ({ params }) => pictureOfAddress(await thumbnailOfShot(params.id!)));
