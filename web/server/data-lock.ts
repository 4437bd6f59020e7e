import { closeSync, mkdirSync, openSync, readFileSync, rmSync, writeSync } from 'node:fs';
import { join } from 'node:path';

/** Who holds a data folder: a process, told from a later one of the same number by when it started. */
interface Holder {
  pid: number;
  started: string | null;
  address: string;
}

/** The folder is in use by another server. */
export class FolderInUse extends Error {
  override readonly name = 'FolderInUse';
}

/**
 * Takes a data folder for this process until it ends. What a killed server left behind is taken over.
 *
 * @param address where this server answers, told to whoever comes second
 * @returns gives the folder back
 * @throws FolderInUse naming the process that has it
 */
export function lockFolder(folder: string, address: string): () => void {
  mkdirSync(folder, { recursive: true });
  const path = join(folder, 'server.lock');
  const mine: Holder = { pid: process.pid, started: startOf(process.pid), address };
  for (let attempt = 0; attempt < 5; attempt++) {
    try {
      const file = openSync(path, 'wx');
      writeSync(file, JSON.stringify(mine));
      closeSync(file);
      return () => {
        if (holderOf(path)?.pid === process.pid) rmSync(path, { force: true });
      };
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    }
    const holder = holderOf(path);
    if (holder && isRunning(holder))
      throw new FolderInUse(
        `The data folder ${folder} is in use by another Dresser: process ${holder.pid}${holder.address ? ` at ${holder.address}` : ''}. ` +
          'Use that one, stop it first, or start this one with another folder: DRESSER_DATA=FOLDER npm start',
      );
    rmSync(path, { force: true });
  }
  throw new FolderInUse(`The data folder ${folder} is being taken by another Dresser. Try again.`);
}

function holderOf(path: string): Holder | null {
  try {
    const found = JSON.parse(readFileSync(path, 'utf8')) as Holder;
    return Number.isInteger(found.pid) ? found : null;
  } catch {
    return null;
  }
}

function isRunning({ pid, started }: Holder): boolean {
  try {
    process.kill(pid, 0);
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
  return started === null || startOf(pid) === started;
}

/** When a process began, in the system's own count; null where the system does not say. */
function startOf(pid: number): string | null {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    // The name of the program stands in brackets and may hold spaces; the start is the 20th word after it.
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? null;
  } catch {
    return null;
  }
}
