import { type ChildProcess, fork } from 'node:child_process';
import { totalmem } from 'node:os';
import { ReadError } from '#core/model/read-error.ts';
import type { WorkerMessage } from '#engine/worker-pool.ts';
import { type ProcessorTime, processorTime, timeHad } from './processor-time.ts';
import type { ReadingSign } from './reading-signs.ts';

/** A reading process was ended, or ended by itself, over a file. */
export class ReaderEnded extends ReadError {
  constructor(
    reason: string,
    where: string,
    remedy: string,
    /** The file it was in, where it had begun one. */
    readonly file: string | null,
  ) {
    super(reason, where, remedy);
  }
}

export interface ReaderLimits {
  /** How many processes read at the same time. */
  processes: number;
  /** Most memory of one process, in MiB. */
  memory: number;
  /** Without a sign of progress a process is ended after so many milliseconds that it had for its work. */
  patience: number;
}

/** A process that gets hardly any of a busy machine is ended after so many times its patience all the same. */
const LONGEST = 20;

/** What was read may be worked on at this pace before it counts as standing still, in bytes a millisecond. */
const SLOWEST_WORK = 4000;

/** Limits as the environment sets them. */
export function limitsFromEnvironment(processes: number): ReaderLimits {
  const total = Math.floor(totalmem() / 2 ** 20);
  const asked = Number(process.env.DRESSER_READER_MEMORY);
  const seconds = Number(process.env.DRESSER_READER_PATIENCE);
  return {
    processes,
    memory: asked > 0 ? asked : Math.max(1024, Math.min(16384, Math.floor(total / 2))),
    patience: 1000 * (seconds > 0 ? seconds : 30),
  };
}

export interface ReadingOptions {
  /** Whose work it is: owners take turns, so that a long import does not hold up a short preview. */
  owner: string;
  signal?: AbortSignal;
  progress?(done: number): void;
  /** Told how many jobs of others come first while this one waits; 0 once it is begun. */
  place?(ahead: number): void;
}

interface Job extends ReadingOptions {
  id: number;
  payload: unknown;
  resolve(value: unknown): void;
  reject(error: unknown): void;
}

/**
 * Processes that read files. Whatever a file makes a reader do, only its process is lost, and another takes its place:
 * a process that uses too much memory or stands still is ended, and its job fails with a reason. One queue serves all,
 * with the owners of the jobs taking turns.
 */
export class ReaderPool {
  private readonly readers: Reader[];
  private readonly waiting: Job[] = [];
  /** The round in which each owner was last served. */
  private readonly served = new Map<string, number>();
  private round = 0;
  private nextId = 1;

  constructor(script: string, limits: ReaderLimits) {
    this.readers = Array.from(
      { length: limits.processes },
      () => new Reader(script, limits, () => this.next()),
    );
  }

  get size(): number {
    return this.readers.length;
  }

  /** Process numbers of the readers that run, for tests of their end. */
  get processes(): number[] {
    return this.readers.flatMap((r) => (r.pid === null ? [] : [r.pid]));
  }

  run<T>(payload: unknown, options: ReadingOptions): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      const { signal } = options;
      if (signal?.aborted) {
        reject(signal.reason);
        return;
      }
      const cancel = (): void => this.cancel(job, signal!.reason);
      const settle =
        <V>(then: (value: V) => void) =>
        (value: V): void => {
          signal?.removeEventListener('abort', cancel);
          then(value);
        };
      const job: Job = {
        ...options,
        id: this.nextId++,
        payload,
        resolve: settle(resolve as (value: unknown) => void),
        reject: settle(reject),
      };
      signal?.addEventListener('abort', cancel, { once: true });
      this.waiting.push(job);
      this.next();
    });
  }

  close(): void {
    for (const job of this.waiting.splice(0)) job.reject(new Error('The readers were closed.'));
    for (const reader of this.readers) reader.end();
  }

  private cancel(job: Job, reason: unknown): void {
    const at = this.waiting.indexOf(job);
    if (at >= 0) {
      this.waiting.splice(at, 1);
      job.reject(reason);
      this.tellPlaces();
      return;
    }
    this.readers.find((r) => r.job === job)?.abandon(reason);
  }

  private next(): void {
    for (let reader = this.free(); reader && this.waiting.length > 0; reader = this.free()) {
      const job = this.waiting.splice(this.order()[0], 1)[0];
      this.served.set(job.owner, ++this.round);
      job.place?.(0);
      reader.begin(job);
    }
    if (this.waiting.length === 0 && this.served.size > 1000) this.served.clear();
    this.tellPlaces();
  }

  private free(): Reader | undefined {
    return this.readers.find((r) => r.job === null);
  }

  /** Indices of the waiting jobs in the order they will be served: turn by turn among the owners. */
  private order(): number[] {
    const turns = new Map<string, number>();
    const keyed = this.waiting.map((job, index) => {
      const turn = turns.get(job.owner) ?? 0;
      turns.set(job.owner, turn + 1);
      return { index, turn, last: this.served.get(job.owner) ?? 0 };
    });
    return keyed.sort((a, b) => a.turn - b.turn || a.last - b.last || a.index - b.index).map((k) => k.index);
  }

  private tellPlaces(): void {
    for (const [place, index] of this.order().entries()) this.waiting[index].place?.(place + 1);
  }
}

/** One process at a time, started with its first job and again after each end. */
class Reader {
  job: Job | null = null;
  private child: ChildProcess | null = null;
  private sign: ReadingSign = { file: null, bytes: 0 };
  /** Milliseconds it had since it last gave a sign, of those it may have; and until when it has to give one at the latest. */
  private had = 0;
  private allowed = 0;
  private deadline = 0;
  private looked = 0;
  private time: ProcessorTime | null = null;
  private watch: NodeJS.Timeout | null = null;
  /** What the watch inside the process said before it ended it. */
  private lastWord = '';

  constructor(
    private readonly script: string,
    private readonly limits: ReaderLimits,
    private readonly whenFree: () => void,
  ) {}

  get pid(): number | null {
    return this.child?.pid ?? null;
  }

  private get timeNow(): ProcessorTime | null {
    return this.pid === null ? null : processorTime(this.pid);
  }

  begin(job: Job): void {
    this.job = job;
    this.sign = { file: null, bytes: 0 };
    this.child ??= this.start();
    // An idle reader keeps no program from ending; one at work does.
    this.child.ref();
    this.child.channel?.ref();
    this.extend(0);
    this.looked = Date.now();
    this.time = this.timeNow;
    this.watch = setInterval(() => this.lookAfter(), 250);
    this.watch.unref();
    this.child.send({ id: job.id, payload: job.payload }, (error) => {
      if (error) this.ended(null, null);
    });
  }

  abandon(reason: unknown): void {
    this.end();
    this.finish((job) => job.reject(reason));
  }

  end(): void {
    const { child } = this;
    this.child = null;
    child?.removeAllListeners();
    child?.on('error', () => undefined);
    child?.kill('SIGKILL');
  }

  private start(): ChildProcess {
    const child = fork(this.script, [String(this.limits.memory)], {
      serialization: 'advanced',
      // Numbers lie outside of what V8 counts; the watch inside the process looks at all of its memory.
      execArgv: [`--max-old-space-size=${this.limits.memory}`],
      stdio: ['ignore', 'ignore', 'ignore', 'ipc', 'pipe'],
    });
    this.lastWord = '';
    child.stdio[4]?.on('data', (chunk: Buffer) => (this.lastWord += chunk.toString()));
    child.stdio[4]?.on('error', () => undefined);
    child.on('message', (message) => this.receive(message as ReaderMessage));
    // After 'exit' the last word may still be on its way; 'close' comes when all is read.
    child.on('close', (code, signal) => child === this.child && this.ended(code, signal));
    child.on('error', () => child === this.child && this.ended(null, null));
    (child.stdio[4] as { unref?(): void } | null)?.unref?.();
    return child;
  }

  private receive(message: ReaderMessage): void {
    const { job } = this;
    if (!job || message.id !== job.id) return;
    if (message.kind === 'sign') {
      this.extend(message.sign.bytes - this.sign.bytes);
      this.sign = message.sign;
    } else if (message.kind === 'progress') {
      this.extend(0);
      job.progress?.(message.done);
    } else if (message.kind === 'done') this.finish((j) => j.resolve(message.value));
    else this.finish((j) => j.reject(Object.assign(new Error(message.message), message.details)));
  }

  private extend(bytes: number): void {
    this.allowed = Math.max(this.allowed - this.had, this.limits.patience + bytes / SLOWEST_WORK);
    this.had = 0;
    this.deadline = Date.now() + LONGEST * this.allowed;
  }

  private lookAfter(): void {
    if (!this.job) return;
    const [now, time] = [Date.now(), this.timeNow];
    this.had += timeHad(now - this.looked, this.time, time);
    this.looked = now;
    this.time = time;
    if (this.had < this.allowed && now < this.deadline) return;
    const seconds = Math.round(this.limits.patience / 1000);
    this.giveUp(`reading made no progress for ${seconds} s and was ended`);
  }

  private giveUp(reason: string): void {
    this.end();
    this.finish((job) => job.reject(this.problem(reason)));
  }

  private ended(code: number | null, signal: NodeJS.Signals | null): void {
    const memory = this.lastWord.includes('memory');
    this.child = null;
    if (!this.job) return;
    const how = signal ?? (code === null ? 'lost' : `code ${code}`);
    if (!memory) console.error(`A reading process ended (${how}) in ${this.sign.file ?? 'no file'}.`);
    const reason =
      memory || signal === 'SIGABRT' || code === 134
        ? `reading took more memory than the ${this.limits.memory} MiB that are allowed and was ended`
        : 'the process that read it ended unexpectedly';
    this.finish((job) => job.reject(this.problem(reason)));
  }

  private problem(reason: string): ReaderEnded {
    return new ReaderEnded(
      reason,
      this.sign.file === null ? 'before the first file' : 'within the file',
      'The file may be damaged: write it again from the solver, or leave it out. ' +
        'If it is sound and very large, start Dresser with a larger DRESSER_READER_MEMORY (MiB).',
      this.sign.file,
    );
  }

  private finish(settle: (job: Job) => void): void {
    const { job } = this;
    if (this.watch) clearInterval(this.watch);
    this.watch = null;
    this.job = null;
    this.allowed = 0;
    this.child?.unref();
    this.child?.channel?.unref();
    if (job) settle(job);
    this.whenFree();
  }
}

export type ReaderMessage = WorkerMessage | { id: number; kind: 'sign'; sign: ReadingSign };
