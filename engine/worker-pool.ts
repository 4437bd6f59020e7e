/** The little of a worker that the pool needs; browser workers and wrapped Node threads both have it. */
export interface WorkerPort {
  postMessage(message: unknown, transfer?: Transferable[]): void;
  terminate(): void;
  onmessage: ((event: { data: unknown }) => void) | null;
  onerror: ((event: { message?: string }) => void) | null;
}

interface Job {
  id: number;
  slot: string | null;
  payload: unknown;
  resolve(value: unknown): void;
  reject(error: unknown): void;
  progress?(done: number): void;
}

/** Thrown to whoever asked for something that a newer wish for the same place has replaced. */
export class Superseded extends Error {
  override readonly name = 'Superseded';
}

export interface JobOptions {
  /** Jobs with the same lane run on the same worker, where their data is kept. */
  lane?: string;
  /** A waiting job of the same slot is replaced by a newer one: the latest wish wins. */
  slot?: string;
  signal?: AbortSignal;
  progress?(done: number): void;
}

/**
 * Workers with one queue each. A job that hangs or is cancelled while running costs its worker, which is replaced;
 * the others go on.
 */
export class WorkerPool {
  private readonly lanes: Lane[];
  private nextId = 1;

  constructor(make: () => WorkerPort, size: number) {
    this.lanes = Array.from({ length: size }, () => new Lane(make));
  }

  /** Which worker does the jobs of a lane: two lanes may share one. */
  workerOf(lane: string): number {
    return hashOf(lane) % this.lanes.length;
  }

  run<T>(payload: unknown, options: JobOptions = {}): Promise<T> {
    const lane = options.lane === undefined ? this.shortest() : this.lanes[this.workerOf(options.lane)];
    return new Promise<T>((resolve, reject) => {
      const job: Job = {
        id: this.nextId++,
        slot: options.slot ?? null,
        payload,
        resolve: resolve as (value: unknown) => void,
        reject,
        progress: options.progress,
      };
      if (options.signal?.aborted) {
        reject(options.signal.reason);
        return;
      }
      const { signal } = options;
      if (signal) {
        const cancel = (): void => lane.cancel(job, signal.reason);
        const forget = (): void => signal.removeEventListener('abort', cancel);
        signal.addEventListener('abort', cancel, { once: true });
        job.resolve = (value) => {
          forget();
          resolve(value as T);
        };
        job.reject = (error) => {
          forget();
          reject(error);
        };
      }
      lane.add(job);
    });
  }

  close(): void {
    for (const lane of this.lanes) lane.close();
  }

  private shortest(): Lane {
    return this.lanes.reduce((a, b) => (b.load < a.load ? b : a));
  }
}

class Lane {
  private worker: WorkerPort | null = null;
  private current: Job | null = null;
  private waiting: Job[] = [];

  constructor(private readonly make: () => WorkerPort) {}

  get load(): number {
    return this.waiting.length + (this.current ? 1 : 0);
  }

  add(job: Job): void {
    if (job.slot !== null) {
      const old = this.waiting.findIndex((j) => j.slot === job.slot);
      if (old >= 0) this.waiting.splice(old, 1)[0].reject(new Superseded());
    }
    this.waiting.push(job);
    this.next();
  }

  cancel(job: Job, reason: unknown): void {
    if (this.current === job) this.abandonWorker(reason);
    else {
      const at = this.waiting.indexOf(job);
      if (at >= 0) this.waiting.splice(at, 1)[0].reject(reason);
    }
    this.next();
  }

  close(): void {
    this.worker?.terminate();
    this.worker = null;
    for (const job of this.waiting.splice(0)) job.reject(new Error('The workers were closed.'));
  }

  private next(): void {
    if (this.current || this.waiting.length === 0) return;
    this.worker ??= this.start();
    this.current = this.waiting.shift()!;
    this.worker.postMessage({ id: this.current.id, payload: this.current.payload });
  }

  private start(): WorkerPort {
    const worker = this.make();
    worker.onmessage = ({ data }) => this.receive(data as WorkerMessage);
    worker.onerror = (event) => {
      this.abandonWorker(new Error(event.message || 'A worker stopped unexpectedly.'));
      this.next();
    };
    return worker;
  }

  private receive(message: WorkerMessage): void {
    const job = this.current;
    if (!job || job.id !== message.id) return;
    if (message.kind === 'progress') {
      job.progress?.(message.done);
      return;
    }
    this.current = null;
    if (message.kind === 'done') job.resolve(message.value);
    else job.reject(Object.assign(new Error(message.message), message.details));
    this.next();
  }

  private abandonWorker(reason: unknown): void {
    this.worker?.terminate();
    this.worker = null;
    const job = this.current;
    this.current = null;
    job?.reject(reason);
  }
}

export type WorkerMessage =
  | { id: number; kind: 'progress'; done: number }
  | { id: number; kind: 'done'; value: unknown }
  | { id: number; kind: 'failed'; message: string; details: Record<string, unknown> };

function hashOf(text: string): number {
  let h = 0;
  for (let i = 0; i < text.length; i++) h = (Math.imul(h, 31) + text.charCodeAt(i)) >>> 0;
  return h;
}

/**
 * The worker's half: answers each job with what `handle` gives.
 *
 * @param transfer lists the buffers of an answer that may move instead of being copied
 */
export function answerJobs(
  port: Pick<WorkerPort, 'postMessage'> & { onmessage: ((event: { data: unknown }) => void) | null },
  handle: (payload: unknown, progress: (done: number) => void) => Promise<unknown>,
  transfer: (value: unknown) => Transferable[] = () => [],
): void {
  port.onmessage = async ({ data }) => {
    const { id, payload } = data as { id: number; payload: unknown };
    try {
      const value = await handle(payload, (done) => port.postMessage({ id, kind: 'progress', done }));
      port.postMessage({ id, kind: 'done', value }, transfer(value));
    } catch (error) {
      const { message, ...details } =
        error instanceof Error ? { ...error, message: error.message } : { message: String(error) };
      port.postMessage({ id, kind: 'failed', message, details });
    }
  };
}
