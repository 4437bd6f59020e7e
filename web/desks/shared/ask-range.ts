import type { MeasuredRange } from '#core/model/run.ts';
import type { AskRange } from '#engine/ranges.ts';
import { ask, followJob } from '#engine/server-requests.ts';

type Answer = MeasuredRange | number[];

/** Asks the server for ranges of quantities that no file states, computed whole and kept with the run. */
export const askRange =
  (run: string): AskRange =>
  async (question, signal) => {
    const answer = await ask<{ range?: Answer; job?: string }>(`/api/runs/${run}/range`, {
      method: 'POST',
      json: question,
    });
    if (answer.range) return answer.range;
    return followJob<Answer>(answer.job!, () => undefined, signal);
  };
