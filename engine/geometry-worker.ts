import { ArraySource, loadFromServer } from './array-source.ts';
import { type GeometryAnswer, GeometryMaker, type GeometryRequest } from './geometry-maker.ts';
import { type MeasureRequest, measureParts } from './measuring.ts';
import { answerJobs, type WorkerPort } from './worker-pool.ts';

/** Bytes of arrays each worker keeps: a few workers stay within a gigabyte together. */
const BUDGET = 256 * 2 ** 20;

const maker = new GeometryMaker(new ArraySource(loadFromServer(''), BUDGET));

const isMeasureRequests = (payload: unknown): payload is MeasureRequest[] => Array.isArray(payload);

// Values are made anew for every answer and may move; shapes are kept here for the next asker and are copied.
answerJobs(
  self as unknown as WorkerPort,
  (payload) =>
    isMeasureRequests(payload) ? measureParts(maker, payload) : maker.make(payload as GeometryRequest),
  (value) => {
    // What was measured is a few numbers.
    if (!value || Array.isArray(value)) return [];
    const { values, edgeValues } = value as GeometryAnswer;
    return [...values, ...edgeValues].flatMap((v) => (v ? [v.buffer as ArrayBuffer] : []));
  },
);
