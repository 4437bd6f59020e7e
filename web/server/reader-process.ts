import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { answerJobs, type WorkerPort } from '#engine/worker-pool.ts';
import { handleReading } from './reading-jobs.ts';
import { tellSigns } from './reading-signs.ts';

// The entry of a process that reads files. A thread beside it watches over its memory and over its parent.
new Worker(join(import.meta.dirname, 'reader-watch.mjs'), {
  workerData: { memory: Number(process.argv[2]) },
}).unref();

const send = (message: unknown): void => void process.send?.(message);
const port: Pick<WorkerPort, 'postMessage' | 'onmessage'> = { postMessage: send, onmessage: null };
answerJobs(port, handleReading);

process.on('message', (data) => {
  const { id } = data as { id: number };
  tellSigns((sign) => send({ id, kind: 'sign', sign }));
  port.onmessage?.({ data });
});
process.on('disconnect', () => process.exit(0));
