import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { arraysOfRun, type RunDescription } from '#core/model/run.ts';
import { buildVtu, hexBlock } from '../vtu-builder.ts';
import { pick, type Random, seeded } from './damage.ts';
import type { Finding } from './readers.ts';
import { Served } from './served.ts';

const block = (hot: number, cells = 12): Uint8Array =>
  new Uint8Array(
    buildVtu(
      hexBlock(cells),
      [
        {
          name: 'temperature',
          location: 'point',
          components: 1,
          type: 'Float64',
          values: Array.from({ length: (cells + 1) ** 3 }, (_, i) => hot + i),
        },
      ] as never,
      { format: 'ascii', header: 4, big: false, zlib: false },
    ),
  );

interface Known {
  run: string;
  scene: string;
  /** The name the scene was last told to have, and whether that was confirmed. */
  name: string;
}

/**
 * Kills a server in the middle of uploads, imports, swaps, edits, shots and deletions, and starts it again: what was
 * confirmed is there, what was not is there whole or not at all.
 */
export async function attackWithKills(
  kills: number,
  seed: number,
): Promise<{ inputs: number; findings: Finding[] }> {
  const findings: Finding[] = [];
  const served = await new Served().start();
  const known: Known[] = [];
  try {
    for (let n = 0; n < kills; n++) {
      const random = seeded(seed * 3_000_017 + n);
      const what = pick(['import', 'import', 'swap', 'extend', 'edit', 'shot', 'delete'] as const, random);
      const input = `${seed}/${n} ${what}`;
      const work = act(served, what, known, n, random).catch(() => undefined);
      await new Promise((r) => setTimeout(r, random() * (what === 'edit' || what === 'shot' ? 150 : 900)));
      await served.kill();
      await work;
      await served.start();
      for (const wrong of await check(served, known)) findings.push({ input, what: wrong });
    }
  } finally {
    await served.remove();
  }
  return { inputs: kills, findings };
}

async function act(served: Served, what: string, known: Known[], n: number, random: Random): Promise<void> {
  const own = known.length > 0 ? pick(known, random) : null;
  if (what === 'import' || !own) {
    const files = { [`run${n}_0.vtu`]: block(n), [`run${n}_1.vtu`]: block(n + 0.5) };
    const made = await served.importFiles(files);
    if (made) known.push({ ...made, name: '' });
    return;
  }
  if (what === 'swap' || what === 'extend') {
    const { answer } = await served.send<{ id: string }>('POST', '/api/intake');
    const at = `/api/intake/${answer.id}`;
    await served.send('PUT', `${at}/files?name=other.vtu`, block(1000 + n));
    const preview = await served.send<{ job: string }>('POST', `${at}/preview`);
    await served.follow(preview.answer.job);
    const swap = what === 'swap' ? own.run : null;
    const started = await served.send<{ job: string }>('POST', `${at}/import`, {
      plan: 0,
      choices: {},
      swap,
    });
    const made = await served.follow<{ run: string; scene: string }>(started.answer.job);
    if (made && !swap) known.push({ ...made, name: '' });
    return;
  }
  if (what === 'delete') {
    known.splice(known.indexOf(own), 1);
    await served.send('DELETE', `/api/runs/${own.run}`);
    return;
  }
  const { answer } = await served.send<{ revision: number; name: string; document: unknown }>(
    'GET',
    `/api/scenes/${own.scene}`,
  );
  if (what === 'edit') {
    for (let k = 0; ; k++) {
      const now = `name ${n}.${k}`;
      const was = k === 0 ? answer.name : `name ${n}.${k - 1}`;
      const saved = await served.send('PUT', `/api/scenes/${own.scene}`, {
        revision: answer.revision + k,
        changes: [{ at: ['name'], was, now }],
      });
      if (saved.status !== 200) return;
      own.name = now;
    }
  }
  for (;;) {
    const kept = await served.send('POST', `/api/scenes/${own.scene}/shots`, {
      name: 'shot',
      document: answer.document,
      thumbnail: 'data:image/png;base64,AAAA',
    });
    if (kept.status !== 200) return;
  }
}

/** What is not as it was promised. */
async function check(served: Served, known: Known[]): Promise<string[]> {
  const wrong: string[] = [];
  const arrays = new Set<string>();
  for (const { run, scene, name } of known) {
    const found = await served.send<{ description: RunDescription }>('GET', `/api/runs/${run}`);
    const kept = await served.send<{ name: string }>('GET', `/api/scenes/${scene}`);
    if (found.status !== 200 || kept.status !== 200) {
      wrong.push(`a run or scene is lost (${found.status}, ${kept.status})`);
      continue;
    }
    // The change under way when the power went may have arrived as well; an older name may not come back.
    const [at, step] = name.replace('name ', '').split('.').map(Number);
    const [nowAt, nowStep] = kept.answer.name.replace('name ', '').split('.').map(Number);
    if (name && (nowAt < at || (nowAt === at && nowStep < step)))
      wrong.push(`"${name}" was confirmed, "${kept.answer.name}" is there`);
    const refs = [...arraysOfRun(found.answer.description)];
    for (const { hash } of refs) {
      arrays.add(hash);
      if (!existsSync(join(served.data, 'arrays', hash.slice(0, 2), `${hash}.bin`)))
        wrong.push('an array is lost');
    }
    const page = await served.send<string>('GET', `/scene/${scene}`);
    if (page.status !== 200) wrong.push(`the page of a scene answers ${page.status}`);
  }
  const folder = join(served.data, 'arrays');
  for (const sub of existsSync(folder) ? readdirSync(folder) : [])
    for (const file of readdirSync(join(folder, sub)))
      if (!file.endsWith('.bin')) wrong.push(`half an array is left: ${file}`);
  const uploads = join(served.data, 'uploads');
  if (existsSync(uploads) && readdirSync(uploads).length > 0)
    wrong.push('copies of an unfinished drop are left');
  return wrong;
}
