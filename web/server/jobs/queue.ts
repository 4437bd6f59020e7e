import PgBoss from 'pg-boss';
import { storable } from '#core/model/clean-text.ts';
import { type FileProblem, ReadError } from '#core/model/read-error.ts';
import { executeSql } from '../database.ts';
import { intakeProblem } from '../intake-problem.ts';
import { inStore } from '../store-trouble.ts';
import type { JobContext, JobKind } from './job-kind.ts';

export interface JobState {
  id: string;
  kind: string;
  state: 'running' | 'done' | 'failed' | 'cancelled';
  /** 0..1 */
  done: number;
  /** Seconds still to go, once enough is done to tell. */
  remaining: number | null;
  /** How many jobs of others come first, while it waits for its turn. */
  ahead: number;
  result: unknown;
  problem: FileProblem | null;
  /** The server was stopped in the middle of it: it can be begun anew as it stands. */
  stopped: boolean;
}

/** What the queue keeps of a job. */
interface Kept {
  kind: string;
  payload: unknown;
}

/** How a job ended, as the queue keeps it. */
interface Ending {
  result?: unknown;
  problem?: FileProblem;
  stopped?: boolean;
}

/** A job this process works on, or has worked on a moment ago. */
interface Live extends JobState {
  started: number;
  begun: boolean;
  abort: AbortController;
  letGo(): Promise<void>;
}

/** One queue holds all kinds: they share the readers, and take turns there. */
const QUEUE = 'work';
/** How long the end of a job is at hand without asking the database, in milliseconds. */
const REMEMBERED = 10 * 60_000;
/** So many jobs of a kind are listed. */
const MOST_LISTED = 20;
const TIDY_EVERY = 6 * 3600_000;
const isId = (id: string): boolean => /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(id);

/**
 * Long work as data: kept in the database by the queue engine from the moment it is asked for until a while after its
 * end, whatever becomes of this process. Nobody polls: this process takes out what it has put in at once.
 */
export class JobQueue {
  private readonly live = new Map<string, Live>();
  // biome-ignore lint/suspicious/noExplicitAny: payloads are checked by the schema of the kind they belong to
  private readonly kinds = new Map<string, JobKind<any>>();
  private opening: Promise<PgBoss> | null = null;

  /** Makes a kind known, so that jobs of it can be begun anew after a restart. */
  register<P>(kind: JobKind<P>): void {
    this.kinds.set(kind.kind, kind);
  }

  /**
   * Puts work in the queue and gives its id at once.
   *
   * @throws Error when the kind refuses it, or it cannot be kept
   */
  async start<P>(kind: JobKind<P>, given: P): Promise<string> {
    this.register(kind);
    const payload = kind.payload.parse(given);
    const letGo = kind.hold?.(payload) ?? (async () => undefined);
    try {
      const boss = await this.open();
      const kept: Kept = { kind: kind.kind, payload: storable(payload) };
      const options = { retryLimit: kind.retries, retryDelay: 0, expireInHours: 23 };
      const id = await inStore(() => boss.send(QUEUE, kept, options));
      this.live.set(id!, this.lively(id!, kind.kind, letGo));
      void this.pump(boss);
      return id!;
    } catch (error) {
      await letGo();
      throw error;
    }
  }

  /** How a job stands; null when it is not known, or was forgotten. */
  async state(id: string): Promise<JobState | null> {
    const live = this.live.get(id);
    if (live) {
      const { kind, state, done, remaining, ahead, result, problem, stopped } = live;
      return { id, kind, state, done, remaining, ahead, result, problem, stopped };
    }
    if (!isId(id)) return null;
    const boss = await this.open();
    const job = await boss.getJobById<Kept>(QUEUE, id, { includeArchive: true } as never);
    if (!job) return null;
    const ending = (job.output ?? {}) as Ending;
    const state = stateOf[job.state];
    return {
      id,
      kind: job.data.kind,
      state,
      done: state === 'done' ? 1 : 0,
      remaining: null,
      ahead: 0,
      result: ending.result ?? null,
      problem: state === 'failed' ? (ending.problem ?? stoppedProblem) : null,
      stopped: state === 'failed' && ending.stopped === true,
    };
  }

  /**
   * The latest jobs of a kind that are known, with what they were told; the last first.
   *
   * @param told only those that were told this
   */
  async list<P>(kind: JobKind<P>, told: Partial<P> = {}): Promise<{ payload: P; state: JobState }[]> {
    await this.open();
    const of = (table: string): string =>
      `select id, data->'payload' as payload, created_on from pgboss.${table} where name = $1 and data->>'kind' = $2 and data->'payload' @> $3::jsonb`;
    const { rows } = await executeSql(
      `${of('job')} union all ${of('archive')} order by created_on desc limit ${MOST_LISTED}`,
      [QUEUE, kind.kind, JSON.stringify(told)],
    );
    const listed = (rows as { id: string; payload: unknown }[]).map(async ({ id, payload }) => {
      const [read, state] = [kind.payload.safeParse(payload), await this.state(id)];
      return read.success && state ? [{ payload: read.data, state }] : [];
    });
    return (await Promise.all(listed)).flat();
  }

  /** What a job of a kind was told; null where it is not known, or of another kind. */
  async payload<P>(kind: JobKind<P>, id: string): Promise<P | null> {
    if (!isId(id)) return null;
    const boss = await this.open();
    const job = await boss.getJobById<Kept>(QUEUE, id, { includeArchive: true } as never);
    const read = job?.data.kind === kind.kind ? kind.payload.safeParse(job.data.payload) : null;
    return read?.success ? read.data : null;
  }

  /** Ends a job of a kind where it still waits or runs, and forgets it; whether there was one. */
  async forget<P>({ kind }: JobKind<P>, id: string): Promise<boolean> {
    if ((await this.state(id))?.kind !== kind) return false;
    await this.cancel(id);
    this.live.delete(id);
    for (const table of ['job', 'archive'])
      await executeSql(`delete from pgboss.${table} where name = $1 and id = $2::uuid`, [QUEUE, id]);
    return true;
  }

  /** Ends a job that waits or runs; whether there was one. */
  async cancel(id: string): Promise<boolean> {
    const live = this.live.get(id);
    live?.abort.abort(new Error('cancelled'));
    if (!isId(id)) return false;
    const boss = await this.open();
    const job = await boss.getJobById(QUEUE, id);
    if (!job) return false;
    await boss.cancel(QUEUE, id);
    return true;
  }

  /**
   * Begins a job anew that has failed or was cancelled, with what it was told.
   *
   * @throws Error when its kind refuses it now
   */
  async retry(id: string): Promise<boolean> {
    if (!isId(id)) return false;
    const boss = await this.open();
    const job = await boss.getJobById<Kept>(QUEUE, id);
    const kind = job && this.kinds.get(job.data.kind);
    if (!job || !kind || (job.state !== 'failed' && job.state !== 'cancelled')) return false;
    const letGo = kind.hold?.(job.data.payload) ?? (async () => undefined);
    await (job.state === 'failed' ? boss.retry(QUEUE, id) : boss.resume(QUEUE, id));
    this.live.set(id, this.lively(id, kind.kind, letGo));
    void this.pump(boss);
    return true;
  }

  /** What jobs were told that were stopped in their middle and may be begun anew. */
  async stoppedPayloads(kind: string): Promise<unknown[]> {
    await this.open();
    const { rows } = await executeSql(
      `select data from pgboss.job where name = $1 and state = 'failed' and output->>'stopped' = 'true'`,
      [QUEUE],
    );
    return (rows as { data: Kept }[]).flatMap(({ data }) => (data.kind === kind ? [data.payload] : []));
  }

  private open(): Promise<PgBoss> {
    this.opening ??= this.begin().catch((error: unknown) => {
      this.opening = null;
      throw error;
    });
    return this.opening;
  }

  private async begin(): Promise<PgBoss> {
    // Neither clock nor workers of the engine: it keeps the jobs, and this process takes them.
    const boss = new PgBoss({ db: { executeSql }, supervise: false, schedule: false, migrate: true });
    boss.on('error', (error) => console.error(error));
    await boss.start();
    await boss.createQueue(QUEUE);
    await this.endStopped(boss);
    await boss.maintain();
    setInterval(() => void boss.maintain().catch((e: unknown) => console.error(e)), TIDY_EVERY).unref();
    void this.pump(boss);
    return boss;
  }

  /** What a killed server has left: begun anew where its kind says so, and told as stopped where not. */
  private async endStopped(boss: PgBoss): Promise<void> {
    const { rows } = await executeSql(`select id from pgboss.job where name = $1 and state = 'active'`, [
      QUEUE,
    ]);
    for (const { id } of rows as { id: string }[]) {
      const ending: Ending = { problem: stoppedProblem, stopped: true };
      await boss.fail(QUEUE, id, ending);
    }
    // Jobs that wait were put there by the server before this one.
    await executeSql(
      `update pgboss.job set state = 'failed', completed_on = now(), output = $2::jsonb where name = $1 and state = 'created'`,
      [QUEUE, JSON.stringify({ problem: stoppedProblem, stopped: true } satisfies Ending)],
    );
  }

  private async pump(boss: PgBoss): Promise<void> {
    try {
      for (;;) {
        const jobs = await boss.fetch<Kept>(QUEUE, { batchSize: 8 });
        if (jobs.length === 0) return;
        for (const { id, data } of jobs) void this.work(boss, id, data);
      }
    } catch (error) {
      console.error(error);
    }
  }

  private async work(boss: PgBoss, id: string, { kind: name, payload }: Kept): Promise<void> {
    const job = this.live.get(id) ?? this.lively(id, name, async () => undefined);
    this.live.set(id, job);
    job.started = Date.now();
    const kind = this.kinds.get(name);
    try {
      job.abort.signal.throwIfAborted();
      if (!kind)
        throw new ReadError(
          `this version does no work of the kind "${name}"`,
          'the work under way',
          'Use the version that began it.',
        );
      const told = kind.payload.parse(payload);
      job.result = storable((await kind.work(told, contextOf(job))) ?? null);
      await boss.complete(QUEUE, id, { result: job.result } satisfies Ending);
      Object.assign(job, { state: 'done', done: 1 });
    } catch (error) {
      if (job.abort.signal.aborted) job.state = 'cancelled';
      else {
        Object.assign(job, { state: 'failed', problem: intakeProblem(error) });
        await this.keepFailure(id, job.problem!);
      }
    } finally {
      await job.letGo().catch((e: unknown) => console.error(e));
      setTimeout(() => this.live.delete(id), REMEMBERED).unref();
    }
  }

  /** What failed by itself is not begun anew by the engine: the same would come of it. */
  private async keepFailure(id: string, problem: FileProblem): Promise<void> {
    await executeSql(
      `update pgboss.job set state = 'failed', completed_on = now(), output = $3::jsonb where name = $1 and id = $2::uuid`,
      [QUEUE, id, JSON.stringify(storable({ problem } satisfies Ending))],
    ).catch((error: unknown) => console.error(error));
  }

  private lively(id: string, kind: string, letGo: () => Promise<void>): Live {
    return {
      id,
      kind,
      state: 'running',
      done: 0,
      remaining: null,
      ahead: 0,
      result: null,
      problem: null,
      stopped: false,
      started: Date.now(),
      begun: false,
      abort: new AbortController(),
      letGo,
    };
  }
}

const stateOf: Record<PgBoss.JobWithMetadata['state'], JobState['state']> = {
  created: 'running',
  retry: 'running',
  active: 'running',
  completed: 'done',
  cancelled: 'cancelled',
  failed: 'failed',
};

const stoppedProblem: FileProblem = {
  file: '',
  reason: 'the server was stopped while it worked on this',
  where: 'the work under way',
  remedy: 'Start it again; nothing half was kept.',
};

const contextOf = (job: Live): JobContext => ({
  owner: job.id,
  signal: job.abort.signal,
  progress(done, kept = 0) {
    job.done = done;
    const elapsed = (Date.now() - job.started) / 1000;
    const own = done - kept;
    job.remaining = own > 0.05 * (1 - kept) ? (elapsed * (1 - done)) / own : null;
  },
  place(ahead) {
    if (ahead === 0 && !job.begun) {
      job.begun = true;
      job.started = Date.now();
    }
    job.ahead = job.begun ? 0 : ahead;
  },
});

const global = globalThis as { dresserJobs?: JobQueue };

/** The queue of this process. */
export const jobs = (global.dresserJobs ??= new JobQueue());
