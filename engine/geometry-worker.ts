import { ArraySource, loadFromServer } from './array-source.ts';
import { GeometryMaker, type GeometryRequest } from './geometry-maker.ts';
import { answerJobs, type WorkerPort } from './worker-pool.ts';

const maker = new GeometryMaker(new ArraySource(loadFromServer('')));

export type GeometryJob = { kind: 'make' | 'prepare'; request: GeometryRequest };

// Values are made anew for every answer and may move; drawables are kept here for the next asker and are copied.
answerJobs(
  self as unknown as WorkerPort,
  (payload) => {
    const job = payload as GeometryJob;
    return job.kind === 'make' ? maker.make(job.request) : maker.prepare(job.request);
  },
  (value) => {
    const values = (value as { values?: Float32Array } | undefined)?.values;
    return values ? [values.buffer as ArrayBuffer] : [];
  },
);
