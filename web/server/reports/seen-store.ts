import { mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { SourceFacts } from '#core/report/facts.ts';
import { dataFolder } from '../paths.ts';
import { inStore } from '../store-trouble.ts';

/** What reports have seen of their sources: facts, pictures and living figures in files called by their keys, never changed. */
const folder = join(dataFolder, 'reports');

const KEY = /^[0-9a-f]{32}$/;
/** What is being written may not be older than this, in milliseconds, to be swept away. */
const UNDER_WAY = 3600_000;

/** How well a picture is drawn: quickly, to be looked at while the final one is being drawn. */
export const pictureQualities = ['draft', 'final'] as const;
export type PictureQuality = (typeof pictureQualities)[number];

const picturePath = (key: string, quality: PictureQuality): string | null =>
  KEY.test(key) ? join(folder, quality === 'draft' ? `${key}.draft.png` : `${key}.png`) : null;

/** Grows when living figures are made otherwise, so that all are made anew. */
const LIVING_FORM = 1;

const livingPath = (key: string): string | null =>
  KEY.test(key) ? join(folder, `${key}.living-${LIVING_FORM}`) : null;

const factsPath = (key: string): string => join(folder, `${key}.json`);

/** What was seen; null where it is not kept. */
export async function seenFacts(key: string | null): Promise<SourceFacts | null> {
  if (key === null || !KEY.test(key)) return null;
  const text = await readFile(factsPath(key), 'utf8').catch(() => null);
  if (text === null) return null;
  const facts = JSON.parse(text) as SourceFacts;
  // What was seen before there was a preflight says nothing of it.
  return facts.kind === 'scene' ? { ...facts, findings: facts.findings ?? [] } : facts;
}

/** The best picture there is of what was seen: where it lies, and how large the file is; null where there is none. */
export async function bestPicture(
  key: string,
): Promise<{ quality: PictureQuality; path: string; bytes: number } | null> {
  for (const quality of ['final', 'draft'] as const) {
    const path = picturePath(key, quality);
    const about = path && (await stat(path).catch(() => null));
    if (path && about) return { quality, path, bytes: about.size };
  }
  return null;
}

/** The picture itself; null where it is not there. */
export async function readPicture(key: string, quality: PictureQuality): Promise<Buffer | null> {
  const path = picturePath(key, quality);
  return path === null ? null : readFile(path).catch(() => null);
}

/** How many bytes a living figure has, 0 where it is too large for a page; null while there is none. */
export async function sizeOfLiving(key: string): Promise<number | null> {
  const path = livingPath(key);
  const about = path === null ? null : await stat(path).catch(() => null);
  return about?.size ?? null;
}

/** The living figure of what was seen; null where there is none. */
export async function readLiving(key: string): Promise<Buffer | null> {
  const path = livingPath(key);
  const bytes = path && (await readFile(path).catch(() => null));
  return bytes && bytes.length > 0 ? bytes : null;
}

/** @param bytes none where it is too large for a page */
export const keepLiving = (key: string, bytes: Uint8Array): Promise<void> => keep(livingPath(key)!, bytes);

export const keepFacts = (key: string, facts: SourceFacts): Promise<void> =>
  keep(factsPath(key), JSON.stringify(facts));

export async function keepPicture(key: string, quality: PictureQuality, bytes: Uint8Array): Promise<void> {
  await keep(picturePath(key, quality)!, bytes);
  // The draft has served.
  if (quality === 'final') await rm(picturePath(key, 'draft')!, { force: true });
}

/** It is there whole or not at all. */
async function keep(path: string, content: string | Uint8Array): Promise<void> {
  await inStore(async () => {
    await mkdir(folder, { recursive: true });
    const half = `${path}.half-${process.pid}-${Math.round(performance.now() * 1000)}`;
    await writeFile(half, content);
    await rename(half, path);
  });
}

/** Removes what no report knows any more. */
export async function sweepSeen(known: ReadonlySet<string>): Promise<void> {
  for (const name of await readdir(folder).catch(() => [] as string[])) {
    if (known.has(name.slice(0, 32))) continue;
    const path = join(folder, name);
    const about = await stat(path).catch(() => null);
    if (about && Date.now() - about.mtimeMs > UNDER_WAY) await rm(path, { force: true });
  }
}
