import { buildVtu, hexBlock } from '../vtu-builder.ts';
import { engineWords, hostileTexts, pick, type Random, seeded } from './damage.ts';
import type { Finding } from './readers.ts';
import { Served } from './served.ts';

/** Addresses of every endpoint; `ID` stands for ids that are there, and for some that are not. */
const endpoints: [method: string, path: string][] = [
  ['GET', '/api/folders?path=TEXT'],
  ['GET', '/api/runs/ID'],
  ['GET', '/api/runs/ID/source'],
  ['POST', '/api/runs/ID/read'],
  ['GET', '/api/scenes/ID'],
  ['PUT', '/api/scenes/ID'],
  ['PUT', '/api/scenes/ID/thumbnail'],
  ['GET', '/api/scenes/ID/states?revision=TEXT'],
  ['POST', '/api/scenes/ID/shots'],
  ['PUT', '/api/shots/ID'],
  ['DELETE', '/api/shots/ID'],
  ['POST', '/api/scenes'],
  ['GET', '/api/arrays/TEXT'],
  ['GET', '/api/jobs/TEXT'],
  ['DELETE', '/api/jobs/TEXT'],
  ['PUT', '/api/intake/ID/files?name=TEXT'],
  ['POST', '/api/intake/ID/server-path'],
  ['POST', '/api/intake/ID/preview'],
  ['POST', '/api/intake/ID/arrange'],
  ['POST', '/api/intake/ID/import'],
  ['GET', '/scene/ID'],
  ['GET', '/run/ID'],
  ['GET', '/TEXT'],
  ['PATCH', '/api/scenes/ID'],
];

const deep = `${'['.repeat(5000)}${']'.repeat(5000)}`;

function bodyFor(random: Random, ids: Record<string, string>): string {
  const text = (): string => pick(hostileTexts, random);
  const number = (): unknown => pick([-1, 0, 1, 1e300, 2 ** 53, null, '1', 0.5], random);
  const bodies: unknown[] = [
    {},
    [],
    null,
    { revision: number(), changes: [{ at: ['name'], was: 'block', now: text() }] },
    { revision: number(), changes: [{ at: [text(), text(), text()], now: number() }] },
    { revision: number(), changes: [{ at: ['layers', text()], now: { id: text() } }] },
    { revision: 1, changes: [{ at: ['__proto__', 'polluted'], now: true }] },
    { thumbnail: text() },
    { thumbnail: `data:image/png;base64,${'A'.repeat(500_000)}` },
    { name: text(), document: { version: number() }, thumbnail: 'data:image/png;base64,AAAA' },
    { name: text() },
    { caption: text() },
    { run: ids.run, name: text() },
    { run: ids.run, document: { version: 3, name: text(), layers: [{ id: number() }] } },
    { run: text() },
    { path: text() },
    { plan: number(), choices: { name: text(), units: { [text()]: text() } } },
    { plans: [number()], as: 'runs', times: { kind: 'names' }, reading: null },
    { what: 'fields', fields: [text()] },
    { what: 'frame', part: text(), frame: { point: [0, 0, 0], axis: [0, 0, 1], rate: number() } },
    { what: 'new steps' },
  ];
  const kind = random();
  if (kind < 0.05) return deep;
  if (kind < 0.1) return text();
  if (kind < 0.15) return '{"a":1e400,"revision":1e999}';
  return JSON.stringify(pick(bodies, random));
}

/** Halves of characters cannot be part of an address. */
const wellFormed = (text: string): string => text.replace(/[\ud800-\udfff]/g, '\ufffd');

/** Requests under way at the same time: they cross each other. */
const AT_ONCE = 6;

/** Sends hostile requests to a server: it goes on, and every answer is a refusal in words or what was asked for. */
export async function attackRequests(
  inputs: number,
  seed: number,
): Promise<{ inputs: number; findings: Finding[] }> {
  const findings: Finding[] = [];
  const served = await new Served().start();
  try {
    const file = new Uint8Array(
      buildVtu(hexBlock(2), [], { format: 'ascii', header: 4, big: false, zlib: false }),
    );
    const made = await served.importFiles({ 'block.vtu': file });
    if (!made) throw new Error('nothing could be imported');
    const intake = (await served.send<{ id: string }>('POST', '/api/intake')).answer.id;
    let next = 0;
    const sender = async (): Promise<void> => {
      while (next < inputs) await sendOne(next++);
    };
    const sendOne = async (n: number): Promise<void> => {
      const random = seeded(seed * 5_000_011 + n);
      const [method, template] = pick(endpoints, random);
      const own = template.includes('intake')
        ? intake
        : template.includes('runs') || template.includes('/run/')
          ? made.run
          : made.scene;
      const id =
        random() < 0.6 ? own : encodeURIComponent(wellFormed(pick(hostileTexts, random).slice(0, 200)));
      const word = wellFormed(pick(hostileTexts, random));
      const path = template.replace('ID', id).replace('TEXT', encodeURIComponent(word));
      const input = `${seed}/${n} ${method} ${path.slice(0, 120)}`;
      const { status, answer } = await served.send(
        method,
        path,
        method === 'GET' || method === 'DELETE' ? undefined : bodyFor(random, made),
      );
      const said = (typeof answer === 'string' ? (answer as string) : JSON.stringify(answer)).slice(0, 3000);
      if (!served.runs) {
        findings.push({ input, what: 'the server ended' });
        next = inputs;
      }
      if (status === 0) findings.push({ input, what: 'no answer' });
      else if (status >= 500) findings.push({ input, what: `${status}: ${said.slice(0, 200)}` });
      else if (status >= 400 && path.startsWith('/api') && engineWords.test(said))
        findings.push({ input, what: `engine words: ${said.slice(0, 200)}` });
      else if (status >= 400 && said.includes(served.data))
        findings.push({ input, what: `a path: ${said.slice(0, 200)}` });
    };
    await Promise.all(Array.from({ length: AT_ONCE }, sender));
    const after = await served.send('GET', `/scene/${made.scene}`);
    if (after.status !== 200)
      findings.push({ input: 'after all', what: `the scene answers ${after.status}` });
  } finally {
    await served.remove();
  }
  return { inputs, findings };
}
