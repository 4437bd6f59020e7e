import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { delimiter, join } from 'node:path';
import { freePort } from '../../cli/free-port.ts';

/** A machine that does much else may take its time, in milliseconds. */
const STARTS_WITHIN = 180_000;
/** Whoever has no answer by then waits in vain. */
const ANSWERS_WITHIN = 120_000;

/** A server on a data folder of its own that can be killed and started again. */
export class Served {
  readonly data: string;
  address = '';
  process: ChildProcess | null = null;
  /** What went wrong last, in words. */
  private problem = '';

  constructor(private readonly environment: Record<string, string> = {}) {
    this.data = environment.DRESSER_DATA ?? mkdtempSync(join(tmpdir(), 'dresser-served-'));
  }

  /**
   * @param folders of results that it may read
   * @param port a free one unless it is told
   */
  async start(folders: string[] = [], port = 0): Promise<this> {
    port ||= await freePort();
    this.address = `http://127.0.0.1:${port}`;
    this.process = spawn(process.execPath, ['dist/server.mjs'], {
      env: {
        ...process.env,
        HOST: '127.0.0.1',
        PORT: String(port),
        DRESSER_DATA: this.data,
        DRESSER_HOME: process.cwd(),
        DRESSER_FOLDERS: folders.join(delimiter),
        ...this.environment,
      },
      stdio: ['ignore', 'ignore', 'ignore'],
    });
    for (const begin = Date.now(); Date.now() - begin < STARTS_WITHIN; ) {
      const up = await fetch(`${this.address}/api/folders`).then(
        (r) => r.ok,
        () => false,
      );
      if (up) return this;
      if (this.process.exitCode !== null) break;
      await new Promise((r) => setTimeout(r, 50));
    }
    throw new Error('the server did not start');
  }

  get runs(): boolean {
    return this.process !== null && this.process.exitCode === null && this.process.signalCode === null;
  }

  /** Ends it as a power cut would. */
  async kill(): Promise<void> {
    const { process: child } = this;
    if (!child || !this.runs) return;
    const gone = new Promise((r) => child.once('exit', r));
    child.kill('SIGKILL');
    await gone;
  }

  async remove(): Promise<void> {
    await this.kill();
    rmSync(this.data, { recursive: true, force: true, maxRetries: 5 });
  }

  /** Sends a request and gives status and answer; a network failure gives status 0. */
  async send<T = Record<string, unknown>>(
    method: string,
    path: string,
    body?: unknown,
  ): Promise<{ status: number; answer: T }> {
    try {
      const raw = body instanceof Uint8Array || typeof body === 'string';
      const response = await fetch(this.address + path, {
        method,
        headers: { 'Content-Type': 'application/json' },
        body: body === undefined ? undefined : raw ? (body as BodyInit) : JSON.stringify(body),
        signal: AbortSignal.timeout(ANSWERS_WITHIN),
      });
      const text = await response.text();
      if (!response.ok) this.problem = `${method} ${path}: ${response.status} ${text.slice(0, 300)}`;
      let answer: unknown = text;
      try {
        answer = JSON.parse(text);
      } catch {
        // Pages are no JSON.
      }
      return { status: response.status, answer: answer as T };
    } catch (error) {
      this.problem = `${method} ${path}: ${error}`;
      return { status: 0, answer: null as T };
    }
  }

  /** Follows a job to its end. */
  async follow<T>(job: string): Promise<T | null> {
    for (;;) {
      const { status, answer } = await this.send<{ state: string; result: T }>('GET', `/api/jobs/${job}`);
      if (status !== 200) return null;
      if (answer.state === 'done') return answer.result;
      if (answer.state !== 'running') {
        this.problem = `job ${job}: ${JSON.stringify(answer)}`;
        return null;
      }
      await new Promise((r) => setTimeout(r, 20));
    }
  }

  /** Uploads files and imports the first run they make. */
  importFiles(files: Record<string, Uint8Array>): Promise<{ run: string; scene: string } | null> {
    return this.importDrop(async (at) => {
      for (const [name, bytes] of Object.entries(files))
        await this.send('PUT', `${at}/files?name=${encodeURIComponent(name)}`, bytes);
    });
  }

  /** The same where nothing may go wrong. */
  async imported(files: Record<string, Uint8Array>): Promise<{ run: string; scene: string }> {
    const made = await this.importFiles(files);
    if (!made) throw new Error(`The files were not imported. ${this.problem}`);
    return made;
  }

  /** Imports the first run of files that lie in a folder the server may read. */
  importPaths(paths: string[], choices: object = {}): Promise<{ run: string; scene: string } | null> {
    const fill = async (at: string): Promise<void> => {
      for (const path of paths) await this.send('POST', `${at}/server-path`, { path });
    };
    return this.importDrop(fill, null, choices);
  }

  /** Makes a drop, has it filled, and imports it, into a run that is there where `swap` names one. */
  async importDrop(
    fill: (at: string) => Promise<void>,
    swap: string | null = null,
    choices: object = {},
  ): Promise<{ run: string; scene: string } | null> {
    const { answer } = await this.send<{ id: string }>('POST', '/api/intake');
    if (!answer?.id) return null;
    const at = `/api/intake/${answer.id}`;
    await fill(at);
    const preview = await this.send<{ job: string }>('POST', `${at}/preview`);
    if (preview.status !== 200 || !(await this.follow(preview.answer.job))) return null;
    const started = await this.send<{ job: string }>('POST', `${at}/import`, { plan: 0, choices, swap });
    if (started.status !== 200) return null;
    const made = await this.follow<{ run: string; scene: string; content?: string }>(started.answer.job);
    if (made?.content) await this.send('POST', `/api/runs/${made.run}/swap`, { content: made.content });
    await this.send('DELETE', at);
    return made;
  }
}
