import type { RunDescription } from '#core/model/run.ts';
import { ask } from '#engine/server-requests.ts';
import { addRuns, useBeside } from './beside-store.ts';

/** A run by its id, from now on known to the panes. */
export async function runDescription(id: string): Promise<RunDescription> {
  const known = useBeside.getState().runs.get(id);
  if (known) return known;
  const { description } = await ask<{ description: RunDescription }>(`/api/runs/${id}`);
  addRuns({ [id]: description });
  return useBeside.getState().runs.get(id)!;
}
