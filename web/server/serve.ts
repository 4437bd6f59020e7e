import { createServer } from 'node:http';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { FolderInUse, lockFolder } from './data-lock.ts';
import { refusalOf, safetyHeaders } from './gate.ts';
import { dataFolder } from './paths.ts';

type Handler = (
  request: import('node:http').IncomingMessage,
  response: import('node:http').ServerResponse,
) => void;

/** The front door: every request, also for a static file, passes the gate before anything looks at it. */
async function serve(): Promise<void> {
  const port = Number(process.env.PORT ?? 4870);
  const host = process.env.HOST ?? '127.0.0.1';
  const release = lockFolder(dataFolder, `http://${host}:${port}`);
  process.on('exit', release);
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => process.exit(0));
  if (process.env.DRESSER_TIED) endWithStarter();
  process.env.ASTRO_NODE_AUTOSTART = 'disabled';
  const home = process.env.DRESSER_HOME ?? process.cwd();
  const site = pathToFileURL(join(home, 'dist', 'web', 'server', 'entry.mjs')).href;
  const { handler } = (await import(site)) as { handler: Handler };
  const server = createServer({ maxHeaderSize: 16384, requestTimeout: 0 }, (request, response) => {
    for (const [name, value] of Object.entries(safetyHeaders)) response.setHeader(name, value);
    const { host: name, origin, 'sec-fetch-site': from } = request.headers;
    const refusal = refusalOf({
      method: request.method ?? 'GET',
      address: request.url ?? '/',
      host: name ?? null,
      origin: origin ?? null,
      site: typeof from === 'string' ? from : null,
    });
    if (refusal) {
      response.writeHead(refusal.status, {
        'Content-Type': 'text/plain; charset=utf-8',
        Connection: 'close',
      });
      response.end(refusal.text);
      return;
    }
    handler(request, response);
  });
  server.listen(port, host);
}

/** Whoever started this server holds its input open: when they end, however that is, so does the server. */
function endWithStarter(): void {
  process.stdin.on('end', () => process.exit(0));
  process.stdin.on('error', () => process.exit(0));
  process.stdin.resume();
}

serve().catch((error: unknown) => {
  console.error(error instanceof FolderInUse ? error.message : error);
  process.exit(1);
});
