import { useEffect, useState } from 'react';
import { usualBatch } from '#core/batch/batch-settings.ts';
import type { FileProblem } from '#core/model/read-error.ts';
import type { RunSet } from '#core/sets/run-set.ts';
import { ask, problemFrom } from '#engine/server-requests.ts';
import { DRAFT_PASSES } from '#stage/pictures/render-picture.ts';
import type { EndsOfBatch, FilesOfBatch } from '#web/server/batches-of-set.ts';
import type { ListedShot } from '#web/server/listed-shots.ts';
import { useRunSet } from '../set-store.ts';

/** How often it is asked what is there, in milliseconds. */
const ASKED_EVERY = 1000;
/** Rest after the last change before anything is drawn, in milliseconds. */
const REST = 400;

/** What is there of a contact sheet. */
export interface SheetPictures {
  /** Addresses of pictures, by the ids of runs. */
  pictures: ReadonlyMap<string, string>;
  /** The same below the folder of the batch that draws them. */
  paths: ReadonlyMap<string, string>;
  /** Id of that batch, once it is begun. */
  job: string | null;
  /** What is wrong with those that are not, by the ids of runs. */
  failed: ReadonlyMap<string, FileProblem>;
  ends: readonly EndsOfBatch[];
  /** While some are drawn: how many of them are through, from 0 to 1. */
  work: { done: number; remaining: number | null; ahead: number } | null;
  problem: FileProblem | null;
}

const NOTHING: SheetPictures = {
  pictures: new Map(),
  paths: new Map(),
  job: null,
  failed: new Map(),
  ends: [],
  work: null,
  problem: null,
};

interface JobNow {
  state: 'running' | 'done' | 'failed' | 'cancelled';
  done: number;
  remaining: number | null;
  ahead: number;
  problem: FileProblem | null;
}

/** Size of the pictures of a sheet, in the shape of their shot. */
export const sizeOnSheet = (width: number, aspect: number) => ({
  width,
  height: Math.max(16, Math.round(width / aspect)),
});

/**
 * The pictures of a contact sheet: those that are current are there at once, the others are drawn in the background for as long as
 * it is looked at.
 *
 * @param set id of the set
 * @param runs ids, in their order
 */
export function useSheetPictures(
  set: string,
  shot: ListedShot | null,
  runs: readonly string[],
  { scales, width }: RunSet['sheet'],
): SheetPictures {
  const [state, setState] = useState(NOTHING);
  const { rules } = useRunSet();
  const order = shot && {
    set,
    runs,
    folder: '',
    again: false,
    sheet: true,
    settings: {
      ...usualBatch,
      shots: [shot.id],
      sizes: [sizeOnSheet(width, shot.aspect)],
      passes: DRAFT_PASSES,
      scales,
    },
  };
  useEffect(() => {
    if (!order || runs.length === 0) {
      setState(NOTHING);
      return;
    }
    const sheet = new SheetJob(set, order, setState);
    const timer = setTimeout(() => void sheet.begin(), REST);
    return () => {
      clearTimeout(timer);
      sheet.leave();
    };
  }, [JSON.stringify([order, rules])]);
  return state;
}

/** The work of one sheet, for as long as it is looked at. */
class SheetJob {
  private job: string | null = null;
  private isLeft = false;

  constructor(
    private readonly set: string,
    private readonly order: object,
    private readonly told: (state: SheetPictures | ((before: SheetPictures) => SheetPictures)) => void,
  ) {}

  async begin(): Promise<void> {
    try {
      const { job } = await ask<{ job: string }>('/api/batches', { method: 'POST', json: this.order });
      this.job = job;
      if (this.isLeft) this.leave();
      while (!this.isLeft && (await this.look(job))) await new Promise((r) => setTimeout(r, ASKED_EVERY));
    } catch (error) {
      if (!this.isLeft) this.told((before) => ({ ...before, work: null, problem: problemFrom(error) }));
    }
  }

  /** Nobody looks any more: what is drawn stays drawn. */
  leave(): void {
    this.isLeft = true;
    if (this.job) void ask(`/api/batches/${this.job}`, { method: 'DELETE' }).catch(() => undefined);
  }

  /** @returns whether it is still under way */
  private async look(job: string): Promise<boolean> {
    const [now, { entries, ends }] = await Promise.all([
      ask<JobNow>(`/api/jobs/${job}`),
      ask<FilesOfBatch>(`/api/batches/${job}`),
    ]);
    if (this.isLeft) return false;
    const pictures = new Map<string, string>();
    const paths = new Map<string, string>();
    const failed = new Map<string, FileProblem>();
    for (const { path, stamp, problem } of entries) {
      const [run] = path.split('/');
      if (problem) failed.set(run, { file: '', ...problem });
      else {
        paths.set(run, path);
        pictures.set(run, `/api/sets/${this.set}/pictures/${path}?${stamp}`);
      }
    }
    const isRunning = now.state === 'running';
    this.told({ pictures, paths, job, failed, ends, work: isRunning ? now : null, problem: now.problem });
    return isRunning;
  }
}
