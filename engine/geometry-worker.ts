import { ArraySource, loadFromServer } from './array-source.ts';
import { GeometryMaker, type GeometryRequest } from './geometry-maker.ts';
import { answerJobs, type WorkerPort } from './worker-pool.ts';

/** Bytes of arrays each worker keeps: a few workers stay within a gigabyte together. */
const BUDGET = 256 * 2 ** 20;

const maker = new GeometryMaker(new ArraySource(loadFromServer(''), BUDGET));

// Values are made anew for every answer and may move; drawables are kept here for the next asker and are copied.
answerJobs(
  self as unknown as WorkerPort,
  (payload) => maker.make(payload as GeometryRequest),
  (value) => {
    const values = (value as { values?: Float32Array } | undefined)?.values;
    return values ? [values.buffer as ArrayBuffer] : [];
  },
);
