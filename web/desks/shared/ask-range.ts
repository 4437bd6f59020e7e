import type { AskRun } from '#engine/ranges.ts';
import type { RunAnswer } from '#engine/run-ranges.ts';
import { ask, followJob } from '#engine/server-requests.ts';

/** Asks the server for ranges of quantities that no file states, computed whole and kept with the run. */
export const askRange =
  (run: string): AskRun =>
  async (question, signal) => {
    const answer = await ask<{ range?: RunAnswer; job?: string }>(`/api/runs/${run}/range`, {
      method: 'POST',
      json: question,
    });
    if (answer.range) return answer.range;
    return followJob<RunAnswer>(answer.job!, () => undefined, signal);
  };
