import { ask } from '#engine/server-requests.ts';
import type { SeenForReport } from '#web/server/reports/kept-reports.ts';

/** More keys do not go into one address. */
const KEYS_AT_ONCE = 150;

/** What was seen by some keys, however many they are. */
export async function askSeen(keys: readonly string[], address = ''): Promise<SeenForReport> {
  const all: SeenForReport = { facts: {}, pictured: {}, living: [] };
  for (let from = 0; from < keys.length; from += KEYS_AT_ONCE) {
    const some = keys.slice(from, from + KEYS_AT_ONCE).join(',');
    const found = await ask<SeenForReport>(`${address}/api/seen?keys=${some}`);
    Object.assign(all.facts, found.facts);
    Object.assign(all.pictured, found.pictured);
    all.living.push(...found.living);
  }
  return all;
}
