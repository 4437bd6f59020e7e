// Brings the runs of the bakery's bench in through the same intake as any file: the oven first, the others while one works.
import { execFileSync, spawn } from 'node:child_process';
import { existsSync, writeFileSync } from 'node:fs';
import { setPriority } from 'node:os';
import { join } from 'node:path';

async function send(url, method = 'GET', json) {
  const response = await fetch(url, {
    method,
    headers: { 'Content-Type': 'application/json' },
    body: json && JSON.stringify(json),
  });
  const answer = await response.json();
  if (!response.ok) throw new Error(`${answer.reason}. ${answer.remedy}`);
  return answer;
}

async function follow(address, id) {
  for (;;) {
    const job = await send(`${address}/api/jobs/${id}`);
    if (job.state === 'done') return job.result;
    if (job.state !== 'running') throw new Error(job.problem?.reason ?? job.state);
    await new Promise((r) => setTimeout(r, 150));
  }
}

async function untilUp(address) {
  for (let i = 0; i < 600; i++) {
    if (
      await fetch(`${address}/api/folders`).then(
        (r) => r.ok,
        () => false,
      )
    )
      return;
    await new Promise((r) => setTimeout(r, 100));
  }
  throw new Error('The server did not start within a minute.');
}

/** The runs of the bench: id, name, what is imported, and what the files cannot tell. */
export const demoList = () =>
  JSON.parse(execFileSync(process.execPath, ['dist/demo.mjs', '--list'], { encoding: 'utf8' }));

const markOf = (data, { id }) => join(data, 'demo', `.imported-${id}`);
const isComputed = (data, { id }) => existsSync(join(data, 'demo', `${id}.complete`));
/** A run that was imported once and deleted stays deleted; of earlier versions there is one mark, for the oven. */
export const wasImported = (data, run) =>
  existsSync(markOf(data, run)) || (run.id === 'oven-warm-up' && existsSync(join(data, 'demo', '.imported')));

async function importRun(address, data, run) {
  const { id } = await send(`${address}/api/intake`, 'POST');
  await send(`${address}/api/intake/${id}/server-path`, 'POST', {
    path: join(data, 'demo', run.id, run.file),
  });
  const { previews } = await follow(address, (await send(`${address}/api/intake/${id}/preview`, 'POST')).job);
  const made = [];
  for (const [plan, preview] of previews.entries()) {
    if (plan > 0 && !run.asSet) break;
    const choices = { ...run.choices, name: run.asSet ? preview.plan.name : run.name };
    const { job } = await send(`${address}/api/intake/${id}/import`, 'POST', { plan, choices });
    made.push((await follow(address, job)).run);
  }
  if (run.asSet) await send(`${address}/api/sets`, 'POST', { name: run.name, runs: made });
  await send(`${address}/api/intake/${id}`, 'DELETE').catch(() => undefined);
  writeFileSync(markOf(data, run), '');
}

/** Waits for the server and imports the first run once. */
export async function importFirst(address, data, [first]) {
  await untilUp(address);
  if (!first || wasImported(data, first) || !isComputed(data, first)) return;
  console.log('Importing the demo oven ...');
  await importRun(address, data, first);
}

/** Computes and imports the others, one after another, with what time the machine has left. */
export async function importOthers(address, data, [, ...others]) {
  const missing = others.filter((run) => !wasImported(data, run));
  const toCompute = missing.filter((run) => !isComputed(data, run)).map((run) => run.id);
  let computed = Promise.resolve();
  let stop = () => undefined;
  if (toCompute.length > 0) {
    const child = spawn(process.execPath, ['dist/demo.mjs', join(data, 'demo'), ...toCompute], {
      stdio: 'ignore',
    });
    stop = () => child.kill();
    process.on('exit', stop);
    try {
      setPriority(child.pid, 10);
    } catch {
      // Then it is as quick as everything else.
    }
    computed = new Promise((resolve) => child.on('exit', resolve));
  }
  let running = true;
  void computed.then(() => (running = false));
  for (const run of missing) {
    while (running && !isComputed(data, run)) await new Promise((r) => setTimeout(r, 300));
    if (!isComputed(data, run)) continue;
    await importRun(address, data, run).catch((error) => console.error(`${run.name}: ${error.message}`));
  }
  process.off('exit', stop);
}
