// Brings the demo run in through the same intake as any file, when the database is still empty.
import { existsSync, writeFileSync } from 'node:fs';
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

/** Waits for the server and imports the demo once; a demo that was deleted stays deleted. */
export async function importDemo(address, data) {
  await untilUp(address);
  const mark = join(data, 'demo', '.imported');
  const collection = join(data, 'demo', 'oven-warm-up', 'oven-warm-up.pvd');
  if (existsSync(mark) || !existsSync(collection)) return;
  console.log('Importing the demo oven ...');
  const { id } = await send(`${address}/api/intake`, 'POST');
  await send(`${address}/api/intake/${id}/server-path`, 'POST', { path: collection });
  await follow(address, (await send(`${address}/api/intake/${id}/preview`, 'POST')).job);
  const choices = { name: 'Oven warm-up' };
  await follow(address, (await send(`${address}/api/intake/${id}/import`, 'POST', { plan: 0, choices })).job);
  writeFileSync(mark, '');
}
