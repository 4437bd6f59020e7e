// One command from a fresh clone to a running Dresser.
import { spawn } from 'node:child_process';
import { createServer } from 'node:net';
import { resolve } from 'node:path';
import { ensureBuild, ensureFirstDemo, ensurePackages, home } from './ensure.mjs';
import { demoList, importFirst, importOthers } from './import-demo.mjs';

const port = Number(process.env.PORT ?? 4870);
const data = resolve(process.env.DRESSER_DATA ?? 'data');
const address = `http://127.0.0.1:${port}`;

await new Promise((free) => {
  const probe = createServer();
  probe.once('error', (error) => {
    console.error(
      error.code === 'EADDRINUSE'
        ? `Port ${port} is taken, perhaps by another Dresser (${address}). Stop it, or choose another: PORT=4871 npm start`
        : `Port ${port} cannot be used: ${error.message}`,
    );
    process.exit(1);
  });
  probe.listen(port, '127.0.0.1', () => probe.close(free));
});

ensurePackages();
ensureBuild();
const bench = demoList();
ensureFirstDemo(data, bench);

const server = spawn(process.execPath, ['dist/server.mjs'], {
  env: { ...process.env, HOST: '127.0.0.1', PORT: String(port), DRESSER_DATA: data, DRESSER_HOME: home },
  stdio: ['ignore', 'ignore', 'inherit'],
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));

await importFirst(address, data, bench);
console.log(`\n  Dresser is ready: ${address}\n`);
await importOthers(address, data, bench);
