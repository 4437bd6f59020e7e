import { type ChildProcess, spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { problemOf } from '#core/model/read-error.ts';
import { ask, problemFrom, RequestProblem } from '#engine/server-requests.ts';
import { freePort } from './free-port.ts';

/** A server of one's own, for as long as it is used. */
export interface OwnServer {
  address: string;
}

interface ServerPlaces {
  /** Files and folders that it may read. */
  files: readonly string[];
  /** Folder that pictures of batches go into. */
  out?: string;
}

/**
 * Works with a server of its own and leaves nothing behind; what goes wrong is said with reason, place and remedy.
 *
 * @param prepare is done before the server is started, and throws what cannot be
 * @param work given the server, and what was prepared; gives the exit code
 * @returns the exit code: 1 where it could not be done
 */
export async function withOwnServer<T>(
  places: ServerPlaces,
  prepare: () => Promise<T>,
  work: (server: OwnServer, prepared: T) => Promise<number>,
): Promise<number> {
  const folder = await mkdtemp(join(tmpdir(), 'dresser-'));
  let server: ChildProcess | null = null;
  const leave = async (): Promise<void> => {
    server?.kill();
    await rm(folder, { recursive: true, force: true, maxRetries: 5 });
  };
  // Stopped by hand it leaves nothing behind either; 128 and the number of the signal is common practice, no source.
  const stopped = { SIGINT: 130, SIGTERM: 143 } as const;
  const stop = (signal: NodeJS.Signals): void =>
    void leave().finally(() => process.exit(stopped[signal as keyof typeof stopped]));
  for (const signal of Object.keys(stopped)) process.once(signal, stop);
  try {
    const prepared = await prepare();
    const port = await freePort();
    server = await startServer(port, folder, places);
    return await work({ address: `http://127.0.0.1:${port}` }, prepared);
  } catch (error) {
    const problem = error instanceof RequestProblem ? problemFrom(error) : problemOf('render', error);
    const { reason, where, remedy } = problem;
    console.error(`${reason}\n  where: ${where}\n  what to do: ${remedy}`);
    return 1;
  } finally {
    for (const signal of Object.keys(stopped)) process.off(signal, stop);
    await leave();
  }
}

async function startServer(port: number, data: string, { files, out }: ServerPlaces): Promise<ChildProcess> {
  const home = process.env.DRESSER_HOME ?? process.cwd();
  const entry = join(home, 'dist', 'server.mjs');
  if (!existsSync(entry)) {
    throw {
      reason: 'the site is not built yet',
      where: entry,
      remedy: 'Run "npm run build" once in the Dresser folder.',
    };
  }
  const folders = [...new Set(files.map((f) => dirname(resolve(f))))].join(
    process.platform === 'win32' ? ';' : ':',
  );
  const server = spawn(process.execPath, [entry], {
    env: {
      ...process.env,
      HOST: '127.0.0.1',
      PORT: String(port),
      DRESSER_DATA: data,
      DRESSER_FOLDERS: folders,
      DRESSER_HOME: home,
      DRESSER_TIED: '1',
      ...(out !== undefined && { DRESSER_OUT: resolve(out) }),
    },
    stdio: ['pipe', 'ignore', 'inherit'],
  });
  for (let i = 0; i < 300; i++) {
    if (server.exitCode !== null) break;
    const up = await ask(`http://127.0.0.1:${port}/api/folders`).then(
      () => true,
      () => false,
    );
    if (up) return server;
    await new Promise((r) => setTimeout(r, 100));
  }
  server.kill();
  throw {
    reason: 'the rendering server did not start',
    where: `port ${port}`,
    remedy: 'Look at the lines above; free memory or disk and try again.',
  };
}
