import { existsSync } from 'node:fs';

const places = ['/usr/bin/chromium', '/usr/bin/chromium-browser'];

/**
 * The installed Chromium that draws pictures for the command line and the tests.
 *
 * @throws a problem that says how to install one
 */
export function chromiumPath(): string {
  const asked = process.env.DRESSER_CHROMIUM;
  const found = asked ?? places.find((p) => existsSync(p));
  if (found && existsSync(found)) return found;
  throw {
    reason: 'Chromium, which draws the pictures, is not installed',
    where: asked ?? places.join(', '),
    remedy: 'On Debian: apt-get install chromium. Elsewhere set DRESSER_CHROMIUM to its path.',
  };
}

/** Runs without a screen, without a graphics card, and without calling out. */
export const chromiumFlags = [
  '--no-sandbox',
  '--use-gl=angle',
  '--use-angle=swiftshader',
  '--enable-unsafe-swiftshader',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];
