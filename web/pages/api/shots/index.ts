import { shotKinds } from '#core/scene/shot-groups.ts';
import { answer } from '#web/server/answer.ts';
import { listedShots } from '#web/server/listed-shots.ts';

/** Shots of all scenes that can be made of other runs; with `?all` also charts and times of films. */
export const GET = answer(({ url }) => listedShots(url.searchParams.has('all') ? shotKinds : undefined));
