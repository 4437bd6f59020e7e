import { Turns } from './turns.ts';

/** One film or batch is drawn at a time: two would only be slower together. */
export const drawingTurns = new Turns();
