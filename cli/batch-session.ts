import { basename, extname } from 'node:path';
import type { BatchEntry } from '#core/batch/batch-log.ts';
import type { BatchSettings } from '#core/batch/batch-settings.ts';
import type { DocumentFormat } from '#core/batch/document-formats.ts';
import type { DocumentChange } from '#core/model/document-changes.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { Scene } from '#core/scene/document.ts';
import { madeRows } from '#core/sets/made-rows.ts';
import { emptyRunSet, type RunOfSet, type RunSet, tableOfSet } from '#core/sets/run-set.ts';
import type { RunTable } from '#core/sets/run-table.ts';
import { ask, askFile, followJob } from '#engine/server-requests.ts';
import type { DocumentWish } from '#web/server/batch-document.ts';
import type { LackingInRuns } from '#web/server/batch-preview.ts';
import type { BatchMade } from '#web/server/batch-work.ts';
import { type ImportedRun, openImported } from './import-files.ts';
import { type GivenScene, sceneOf } from './opened-scene.ts';
import type { OwnServer } from './own-server.ts';
import { tellProgress } from './tell-progress.ts';

/** What pictures are made of each run, and what is meant by names. */
export interface PicturesOptions {
  name: string;
  size: { width: number; height: number }[];
  format: string[];
  /** Formats of films. */
  film: string[];
  steps: string;
  look: string[];
  scales: BatchSettings['scales'];
  passes: number;
  transparent?: boolean;
  /** Of the runs together, on the first page of a report. */
  title: string;
  /** Also what is current. */
  again?: boolean;
  /** What is meant by names that runs lack. */
  mean?: { asked: string; meant: string }[];
  /** Parameters out of the names of the runs; see `namePattern`. */
  pattern?: string;
}

/** What became of a batch, with an entry for each of its files. */
export type MadeBatch = BatchMade & { files: BatchEntry[] };

/** A picture of nothing: shots need one, and nobody sees these. */
const UNSEEN =
  'data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAQAAAC1HAwCAAAAC0lEQVR42mNk+A8AAQUBAScY42YAAAAASUVORK5CYII=';

/** Shots and a set of runs on a server, of which batches are made again as runs come in. */
export class BatchSession {
  /** Ids of the runs, in the order in which they came. */
  private runs: string[] = [];
  private shots: string[] = [];
  private set: string | null = null;
  private revision = 1;
  /** Id of the batch that was made last. */
  private job: string | null = null;
  /** What was told of names that runs lack: once is enough. */
  private readonly told = new Set<string>();

  constructor(
    private readonly server: OwnServer,
    private readonly given: readonly GivenScene[],
    private readonly options: PicturesOptions,
  ) {}

  /**
   * Takes runs in. Shots that are scripts are read on the first of all.
   *
   * @param replaced ids of runs they come in place of
   */
  async take(imported: readonly ImportedRun[], replaced: readonly string[] = []): Promise<void> {
    const before = this.runs;
    this.runs = [...before.filter((run) => !replaced.includes(run)), ...imported.map(({ run }) => run)];
    if (this.set !== null) {
      await this.change([{ at: ['runs'], was: before, now: this.runs }]);
      return;
    }
    const first = await openImported(this.server, imported[0]);
    for (const scene of this.given) this.shots.push(await this.keptShot(scene, first));
    await this.begin(first.description);
  }

  /** Makes the pictures of all runs that are not current. */
  async make(): Promise<MadeBatch> {
    const { address } = this.server;
    const { options } = this;
    const settings: BatchSettings = {
      shots: this.shots,
      runs: 'shown',
      steps: options.steps,
      sizes: options.size,
      formats: options.format,
      films: options.film,
      looks: options.look.length > 0 ? options.look : [null],
      names: options.name,
      passes: options.passes,
      scales: options.scales,
      scaleOf: {},
      transparent: options.transparent ?? false,
    };
    const json = { set: this.set, settings, runs: this.runs, folder: '', again: options.again ?? false };
    const { troubles } = await ask<{ troubles: string[] }>(`${address}/api/batches/preview`, {
      method: 'POST',
      json,
    });
    for (const trouble of troubles) this.note(trouble);
    await this.tellLacking(json);
    const { job } = await ask<{ job: string }>(`${address}/api/batches`, { method: 'POST', json });
    this.job = job;
    const result = await followJob<BatchMade>(job, tellProgress, undefined, address);
    const { entries } = await ask<{ entries: BatchEntry[] }>(`${address}/api/batches/${job}`);
    return { ...result, files: entries };
  }

  /** The rows of the runs that files were made of; see `madeRows`. */
  async rows(files: readonly BatchEntry[]): Promise<string> {
    return madeRows(await this.table(), files);
  }

  /** Tells what is odd about the table of the runs: a text among numbers, an input that is the same in all. */
  async tellOdd(): Promise<void> {
    for (const finding of (await this.table()).findings) this.note(finding);
  }

  private async table(): Promise<RunTable> {
    const { address } = this.server;
    const [{ document }, known] = await Promise.all([
      ask<{ document: RunSet }>(`${address}/api/sets/${this.set}`),
      ask<RunOfSet[]>(`${address}/api/runs/listed`),
    ]);
    return tableOfSet(document, known);
  }

  /** A report of the pictures that were made last, with the runs and what failed. */
  async document({ id }: DocumentFormat): Promise<Uint8Array> {
    const { bytes } = await askFile(`${this.server.address}/api/batches/${this.job}/document`, {
      method: 'POST',
      json: { format: id, sheet: null } satisfies DocumentWish,
    });
    return new Uint8Array(await new Response(bytes).arrayBuffer());
  }

  private note(text: string): void {
    if (this.told.has(text)) return;
    this.told.add(text);
    console.error(`note: ${text}`);
  }

  /** A scene that was given, kept as a shot of the first run; its id. */
  private async keptShot(
    given: GivenScene,
    first: { run: string; scene: Scene; description: RunDescription },
  ): Promise<string> {
    const { address } = this.server;
    const document = await sceneOf(this.server, given, first);
    const name = basename(given.path, extname(given.path));
    const { id } = await ask<{ id: string }>(`${address}/api/scenes`, {
      method: 'POST',
      json: { run: first.run, document },
    });
    const shot = await ask<{ id: string }>(`${address}/api/scenes/${id}/shots`, {
      method: 'POST',
      json: { name, document, thumbnail: UNSEEN },
    });
    return shot.id;
  }

  /** Makes the set of the runs, with what is said of their names and of names in them. */
  private async begin(first: RunDescription): Promise<void> {
    const { mean = [], pattern = '' } = this.options;
    const { id } = await ask<{ id: string }>(`${this.server.address}/api/sets`, {
      method: 'POST',
      json: { name: this.options.title, runs: this.runs },
    });
    this.set = id;
    const { rules: before } = emptyRunSet(this.options.title);
    const rules: RunSet['rules'] = { fields: {}, parts: {} };
    for (const { asked, meant } of mean) {
      const fields = first.fields.filter((f) => f.name === asked);
      for (const { location } of fields) rules.fields[`${location}:${asked}`] = `${location}:${meant}`;
      if (fields.length === 0) rules.parts[asked] = meant;
    }
    await this.change([
      { at: ['pattern'], was: '', now: pattern },
      { at: ['rules', 'fields'], was: before.fields, now: rules.fields },
      { at: ['rules', 'parts'], was: before.parts, now: rules.parts },
    ]);
  }

  private async change(changes: readonly DocumentChange[]): Promise<void> {
    const saved = await ask<{ revision: number }>(`${this.server.address}/api/sets/${this.set}`, {
      method: 'PUT',
      json: { revision: this.revision, changes },
    });
    this.revision = saved.revision;
  }

  /** What shots ask for that runs lack is told before anything is drawn, with how to say what is meant. */
  private async tellLacking(json: object): Promise<void> {
    const { mean = [] } = this.options;
    const address = `${this.server.address}/api/batches/lacking`;
    for (const { kind, name, runs, likely, offered } of await ask<LackingInRuns[]>(address, {
      method: 'POST',
      json,
    })) {
      if (mean.some((m) => m.asked === name)) continue;
      const meant = offered.find((o) => o.value === likely)?.name;
      const remedy = meant ? `; if ${meant} is meant, say --mean "${name}=${meant}"` : '';
      this.note(`no ${kind} "${name}" in ${runs.join(', ')}${remedy}`);
    }
  }
}
