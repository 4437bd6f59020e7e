import { readdirSync, readFileSync } from 'node:fs';

/** Bytes that a process and those it started hold, as the kernel counts them; 0 where it does not tell. */
export function memoryOf(root: number): number {
  const parents = new Map<number, number>();
  const held = new Map<number, number>();
  try {
    for (const pid of readdirSync('/proc').map(Number).filter(Boolean)) {
      let text: string;
      try {
        text = readFileSync(`/proc/${pid}/status`, 'utf8');
      } catch {
        // It has ended meanwhile.
        continue;
      }
      parents.set(pid, Number(/^PPid:\s*(\d+)/m.exec(text)?.[1] ?? 0));
      held.set(pid, 1024 * Number(/^RssAnon:\s*(\d+)/m.exec(text)?.[1] ?? 0));
    }
  } catch {
    return 0;
  }
  const isBelow = (pid: number): boolean => pid === root || (pid > 1 && isBelow(parents.get(pid) ?? 0));
  return [...held].reduce((sum, [pid, bytes]) => sum + (isBelow(pid) ? bytes : 0), 0);
}
