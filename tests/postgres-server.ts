import { execFileSync, spawn } from 'node:child_process';
import { chmodSync, chownSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort } from '../cli/free-port.ts';

/** Where Debian keeps the programs of the newest version that is installed. */
function programs(): string {
  const base = '/usr/lib/postgresql';
  const [newest] = readdirSync(base).sort((a, b) => Number(b) - Number(a));
  return join(base, newest, 'bin');
}

/** A server of databases of its own, with an empty database, for as long as a test runs. */
export class PostgresServer {
  private readonly folder = mkdtempSync(join(tmpdir(), 'dresser-postgres-'));
  private child: ReturnType<typeof spawn> | null = null;
  address = '';

  async start(): Promise<this> {
    const bin = programs();
    const data = join(this.folder, 'data');
    // It refuses to run as the superuser of the system, so there it runs as the user its package has made.
    const user = process.getuid?.() === 0 ? 'postgres' : null;
    const as = user ? ['runuser', '-u', user, '--'] : [];
    mkdirSync(data);
    chmodSync(data, 0o700);
    if (user) {
      const id = (flag: string): number => Number(execFileSync('id', [flag, user]).toString());
      for (const path of [this.folder, data]) chownSync(path, id('-u'), id('-g'));
    }
    const run = (program: string, args: string[]): [string, string[]] => {
      const all = [...as, join(bin, program), ...args];
      return [all[0], all.slice(1)];
    };
    execFileSync(...run('initdb', ['-D', data, '-U', 'dresser', '-A', 'trust', '-E', 'UTF8', '--no-sync']), {
      cwd: this.folder,
      stdio: 'ignore',
    });
    const port = await freePort();
    const settings = [
      `port=${port}`,
      'listen_addresses=127.0.0.1',
      `unix_socket_directories=${this.folder}`,
      'fsync=off',
    ];
    this.child = spawn(...run('postgres', ['-D', data, ...settings.flatMap((s) => ['-c', s])]), {
      cwd: this.folder,
      stdio: 'ignore',
    });
    this.address = `postgres://dresser@127.0.0.1:${port}/postgres`;
    for (let i = 0; i < 200; i++) {
      try {
        execFileSync(join(bin, 'pg_isready'), ['-h', '127.0.0.1', '-p', String(port)], { stdio: 'ignore' });
        return this;
      } catch {
        await new Promise((r) => setTimeout(r, 50));
      }
    }
    throw new Error('the server of databases did not start');
  }

  async stop(): Promise<void> {
    const { child } = this;
    if (child && child.exitCode === null) {
      const gone = new Promise((r) => child.once('exit', r));
      // The server itself, not the program that changes the user: at once, there is nothing to be kept.
      const [pid] = readFileSync(join(this.folder, 'data', 'postmaster.pid'), 'utf8').split('\n');
      process.kill(Number(pid), 'SIGQUIT');
      await gone;
    }
    rmSync(this.folder, { recursive: true, force: true });
  }
}
