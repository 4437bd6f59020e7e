import { createHash } from 'node:crypto';
import onlyDirective from 'astro/runtime/client/only.prebuilt.js';
import islandScript from 'astro/runtime/server/astro-island.prebuilt.js';

const hashOf = (script: string): string => `'sha256-${createHash('sha256').update(script).digest('base64')}'`;

/** The two small scripts that start the desks stand in the pages themselves; no other script may. */
const ownScripts = [onlyDirective, islandScript].map(hashOf).join(' ');

const contentPolicy = [
  "default-src 'self'",
  // Formulas are compiled in workers to WebAssembly, which reaches nothing but its own numbers; texts never become scripts.
  `script-src 'self' 'wasm-unsafe-eval' ${ownScripts}`,
  // Styles may stand in elements: charts and menus place themselves so.
  "style-src 'self' 'unsafe-inline'",
  "img-src 'self' data: blob:",
  "font-src 'self'",
  "media-src 'self' blob:",
  "worker-src 'self' blob:",
  "connect-src 'self' blob: data:",
  "frame-src 'self' blob:",
  "frame-ancestors 'none'",
  "object-src 'none'",
  "base-uri 'none'",
  "form-action 'self'",
].join('; ');

/** Headers of every answer, pages and static files alike. */
export const safetyHeaders: Readonly<Record<string, string>> = {
  'Content-Security-Policy': contentPolicy,
  'X-Content-Type-Options': 'nosniff',
  'X-Frame-Options': 'DENY',
  'Referrer-Policy': 'no-referrer',
  'Permissions-Policy':
    'accelerometer=(), camera=(), display-capture=(), geolocation=(), gyroscope=(), magnetometer=(), microphone=(), payment=(), usb=()',
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Resource-Policy': 'same-origin',
};

const ownNames = new Set(['127.0.0.1', 'localhost', '[::1]']);

export interface Caller {
  method: string;
  /** Path and query as they were sent. */
  address: string;
  host: string | null;
  origin: string | null;
  /** The browser's own word on where the request comes from (`Sec-Fetch-Site`). */
  site: string | null;
}

/** Why a request is not let in, or null: only pages of this server, opened under its own name, may talk to it. */
export function refusalOf({
  method,
  address,
  host,
  origin,
  site,
}: Caller): { status: number; text: string } | null {
  if (!ownNames.has((host ?? '').replace(/:\d+$/, '')))
    return { status: 421, text: 'This server answers only under its own address.' };
  // Controls in a path lead to nothing that is there, and databases and file systems choke on them.
  if (address.length > 8000 || /%(0|1)[0-9a-f]|%7f/i.test(address.split('?')[0]))
    return { status: 404, text: 'There is nothing at this address.' };
  if (origin !== null && origin !== `http://${host}`)
    return { status: 403, text: 'Requests from other sites are refused.' };
  if ((site === 'cross-site' || site === 'same-site') && method !== 'GET' && method !== 'HEAD')
    return { status: 403, text: 'Requests from other sites are refused.' };
  return null;
}
