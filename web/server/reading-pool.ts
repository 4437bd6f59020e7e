import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { WorkerPool, type WorkerPort } from '#engine/worker-pool.ts';

/** A Node thread with the face of a browser worker. Its memory is bounded: a file cannot take the server down. */
function thread(): WorkerPort {
  const home = process.env.DRESSER_HOME ?? process.cwd();
  const worker = new Worker(join(home, 'dist', 'import-worker.mjs'), {
    resourceLimits: { maxOldGenerationSizeMb: 4096 },
  });
  worker.unref();
  const port: WorkerPort = {
    postMessage: (message) => worker.postMessage(message),
    terminate: () => void worker.terminate(),
    onmessage: null,
    onerror: null,
  };
  worker.on('message', (data) => port.onmessage?.({ data }));
  worker.on('error', (error) => port.onerror?.({ message: `Reading stopped: ${error.message}` }));
  return port;
}

let pool: WorkerPool | null = null;

/** The threads that read files, started with the first job. */
export function readingPool(): WorkerPool {
  pool ??= new WorkerPool(thread, 2);
  return pool;
}
