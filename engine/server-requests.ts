import type { FileProblem } from '#core/model/read-error.ts';

/** An answer of the server that is an error, with its three facts. */
export class RequestProblem extends Error {
  constructor(
    readonly problem: FileProblem,
    /** Status of the answer; 0 when there was none. */
    readonly status = 0,
    /** All that the answer holds. */
    readonly answer: unknown = null,
  ) {
    super(problem.reason);
  }
}

interface Asked {
  method?: string;
  json?: unknown;
  body?: BodyInit;
  keepalive?: boolean;
  /** Nobody waits for the answer any more. */
  signal?: AbortSignal;
}

/**
 * The one way to ask the server, for pages and for the command line.
 *
 * @param address path on the own server, or a whole address
 * @throws RequestProblem when it does not answer, or answers with an error; what the signal was aborted with
 */
async function responseOf(
  address: string,
  { method, json, body, keepalive, signal }: Asked,
): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(address, {
      method: method ?? 'GET',
      body: json === undefined ? body : JSON.stringify(json),
      headers: json === undefined ? {} : { 'Content-Type': 'application/json' },
      keepalive,
      signal,
    });
  } catch {
    signal?.throwIfAborted();
    throw new RequestProblem({
      file: '',
      reason: 'the server does not answer',
      where: address,
      remedy: 'Look whether it still runs in its terminal, start it again with npm start, and try once more.',
    });
  }
  if (response.ok) return response;
  const answer = await response.json().catch(() => ({}));
  const problem = { file: '', reason: 'the server could not do this', where: address, remedy: 'Try again.' };
  throw new RequestProblem({ ...problem, ...answer }, response.status, answer);
}

/** Sends a request and reads its JSON answer. */
export async function ask<T>(address: string, asked: Asked = {}): Promise<T> {
  const response = await responseOf(address, asked);
  return (await response.json().catch(() => ({}))) as T;
}

/** Reads what the server keeps as bytes. */
export const askBytes = async (address: string): Promise<ArrayBuffer> =>
  (await responseOf(address, {})).arrayBuffer();

/** A file of the server, by its name, and its bytes as they come. */
export async function askFile(
  address: string,
  asked: Asked = {},
): Promise<{ name: string; bytes: ReadableStream<Uint8Array<ArrayBuffer>> }> {
  const response = await responseOf(address, asked);
  const name = /filename="([^"]*)"/.exec(response.headers.get('Content-Disposition') ?? '')?.[1] ?? '';
  return { name, bytes: response.body! };
}

export function problemFrom(error: unknown): FileProblem {
  if (error instanceof RequestProblem) return error.problem;
  const reason = error instanceof Error ? error.message : String(error);
  return {
    file: '',
    reason,
    where: 'this page',
    remedy: 'Try again; if it stays, reload the page. Nothing saved is lost.',
  };
}

interface JobState<T> {
  state: 'running' | 'done' | 'failed' | 'cancelled';
  done: number;
  remaining: number | null;
  ahead: number;
  result: T;
  problem: FileProblem | null;
  /** The server was stopped in the middle of it. */
  stopped: boolean;
}

export interface JobProgress {
  done: number;
  remaining: number | null;
  /** How many jobs of others come first, while it waits. */
  ahead?: number;
}

/** How long a server that does not answer is waited for, in milliseconds: it may be started again. */
const PATIENCE = 30_000;

/**
 * Follows long work on the server to its end; cancelling the signal cancels the work. When the server is stopped and
 * started again meanwhile, the work is begun anew, once.
 *
 * @param base address of the server; of the own one where it is empty
 */
export async function followJob<T>(
  job: string,
  progress: (p: JobProgress) => void = () => undefined,
  signal: AbortSignal = new AbortController().signal,
  base = '',
): Promise<T> {
  const address = `${base}/api/jobs/${job}`;
  const cancel = () => void ask(address, { method: 'DELETE' }).catch(() => undefined);
  signal.addEventListener('abort', cancel, { once: true });
  let again = true;
  let silentSince = 0;
  for (let wait = 60; ; wait = Math.min(300, wait * 1.4)) {
    const state = await ask<JobState<T>>(address).catch((error: unknown) => {
      const silent = error instanceof RequestProblem && error.status === 0;
      silentSince ||= Date.now();
      if (!silent || signal.aborted || Date.now() - silentSince > PATIENCE) throw error;
      return null;
    });
    if (state) {
      silentSince = 0;
      progress({ done: state.done, remaining: state.remaining, ahead: state.ahead });
      if (state.state === 'done') return state.result;
      if (state.state === 'cancelled' || signal.aborted) throw new DOMException('cancelled', 'AbortError');
      if (state.state === 'failed') {
        if (!state.stopped || !again) throw new RequestProblem(state.problem!);
        again = false;
        await ask(address, { method: 'POST' });
      }
    }
    await new Promise((r) => setTimeout(r, wait));
  }
}
