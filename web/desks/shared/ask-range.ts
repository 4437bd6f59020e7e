import type { MeasuredRange } from '#core/model/run.ts';
import { ask, followJob } from './requests.ts';

/** Asks the server for ranges of quantities that no file states, computed whole and kept with the run. */
export const askRange =
  (run: string) =>
  async (key: string): Promise<MeasuredRange> => {
    const answer = await ask<{ range?: MeasuredRange; job?: string }>(`/api/runs/${run}/range`, {
      method: 'POST',
      json: { key },
    });
    if (answer.range) return answer.range;
    return followJob<MeasuredRange>(answer.job!, () => undefined, new AbortController().signal);
  };
