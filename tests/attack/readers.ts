import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import type { FileProblem } from '#core/model/read-error.ts';
import { importRun } from '#engine/import-run.ts';
import { failedStep } from '#engine/read-step.ts';
import { quietContext } from '#web/server/jobs/job-kind.ts';
import { ReaderEnded, type ReaderPool } from '#web/server/reader-pool.ts';
import type { PreviewAnswer } from '#web/server/reading-jobs.ts';
import { type BaseDrop, baseDrops } from './base-files.ts';
import { damage, engineWords, pick, type Random, seeded } from './damage.ts';

export interface Finding {
  input: string;
  what: string;
}

export interface AttackReport {
  inputs: number;
  read: number;
  refused: number;
  findings: Finding[];
}

/** A small file that takes longer than this, in seconds, is read in more than linear time. */
const SLOW = 4;

const MORE_TRIES = 2;

/** Whether something may have been found only because the machine was busy. */
const isOfTime = ({ what }: Finding): boolean => /^took|made no progress/.test(what);

/** Damages files of every format and has them looked into and imported by the reading processes. */
export async function attackReaders(pool: ReaderPool, inputs: number, seed: number): Promise<AttackReport> {
  const drops = baseDrops();
  const report: AttackReport = { inputs, read: 0, refused: 0, findings: [] };
  const scratch = mkdtempSync(join(tmpdir(), 'dresser-attack-'));
  const tooLong: number[] = [];
  let next = 0;
  const attempt = async (n: number): Promise<AttackReport> => {
    const drop = drops[n % drops.length];
    const input = `${seed}/${n} ${drop.name}`;
    const own: AttackReport = { inputs: 1, read: 0, refused: 0, findings: [] };
    const random = seeded(seed * 1_000_003 + n);
    const seconds = await attackOne(pool, drop, random, input, join(scratch, String(n)), own);
    if (seconds > SLOW) own.findings.push({ input, what: `took ${seconds.toFixed(1)} s` });
    return own;
  };
  const take = ({ read, refused, findings }: AttackReport): void => {
    report.read += read;
    report.refused += refused;
    report.findings.push(...findings);
  };
  const worker = async (): Promise<void> => {
    while (next < inputs) {
      const n = next++;
      const own = await attempt(n);
      if (own.findings.some(isOfTime)) tooLong.push(n);
      else take(own);
    }
  };
  try {
    await Promise.all(Array.from({ length: pool.size }, worker));
    // What took too long is tried again by itself: the machine may have been busy with something else.
    for (const n of tooLong) {
      let own = await attempt(n);
      for (let more = 0; more < MORE_TRIES && own.findings.some(isOfTime); more++) own = await attempt(n);
      take(own);
    }
  } finally {
    rmSync(scratch, { recursive: true, force: true });
  }
  return report;
}

/** @returns how long it took, in seconds */
async function attackOne(
  pool: ReaderPool,
  drop: BaseDrop,
  random: Random,
  input: string,
  folder: string,
  report: AttackReport,
): Promise<number> {
  const target = pick(drop.targets, random);
  const files = Object.entries(drop.files).map(([name, bytes]) => {
    const path = join(folder, 'drop', name);
    mkdirSync(dirname(path), { recursive: true });
    writeFileSync(path, name === target ? damage(bytes, random) : bytes);
    return { name, path };
  });
  const find = (what: string): void => void report.findings.push({ input: `${input} (${target})`, what });
  const begin = performance.now();
  try {
    const at = quietContext();
    const answer = await pool.run<PreviewAnswer>(
      {
        kind: 'understand',
        files,
        place: { lookIn: [], roots: null },
        scratch: join(folder, 'scratch'),
        everyStep: false,
      },
      at,
    );
    const problems = [...answer.problems];
    let runs = 0;
    for (const { plan } of answer.previews.slice(0, 3)) {
      const place = {
        import: input,
        base: answer.base,
        reading: plan.reading,
        arrays: join(folder, 'arrays'),
      };
      try {
        await importRun(
          plan,
          {},
          {
            readStep: async (job) => {
              try {
                return await pool.run({ kind: 'step', job, ...place }, at);
              } catch (error) {
                if (error instanceof ReaderEnded) find(`ended at import: ${error.reason}`);
                return failedStep(job.step, error as unknown as FileProblem);
              }
            },
            readRest: (rest) => pool.run({ kind: 'rest', plan: rest, ...place }, at),
          },
        );
        runs++;
      } catch (error) {
        if (error instanceof ReaderEnded) throw error;
        problems.push(error as unknown as FileProblem);
      }
    }
    for (const p of problems) {
      const said = `${p.reason} | ${p.where} | ${p.remedy}`;
      if (!p.reason || !p.where || !p.remedy)
        find(`not a refusal: ${said} ${(p as unknown as Error).message}`);
      else if (engineWords.test(said)) find(`engine words: ${said}`);
    }
    if (runs === 0 && problems.length === 0) find('silent: nothing read, nothing refused');
    if (runs > 0) report.read++;
    else report.refused++;
  } catch (error) {
    if (error instanceof ReaderEnded) find(`ended: ${error.reason}`);
    else find(`failed: ${(error as Error).message}`);
  }
  rmSync(folder, { recursive: true, force: true });
  return (performance.now() - begin) / 1000;
}
