import { defineMiddleware } from 'astro:middleware';
import { tidyUploads } from '#web/server/intake.ts';
import { sweepStore } from '#web/server/store-sweep.ts';

const ownNames = new Set(['127.0.0.1', 'localhost', '[::1]']);

// Nothing is served before the leftovers of an interrupted server are cleared.
const ready = Promise.all([tidyUploads(), sweepStore()]);

const headers: Record<string, string> = {
  'Content-Security-Policy':
    "default-src 'self'; script-src 'self' 'unsafe-inline'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; media-src 'self' blob:; worker-src 'self' blob:; connect-src 'self' blob: data:; frame-src 'self' blob:; object-src 'none'; base-uri 'none'; form-action 'self'",
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'no-referrer',
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Resource-Policy': 'same-origin',
};

/** Only pages of this server, opened under its own name, may talk to it. */
export const onRequest = defineMiddleware(async ({ request }, next) => {
  const host = request.headers.get('host') ?? '';
  if (!ownNames.has(host.replace(/:\d+$/, ''))) {
    return new Response('This server answers only under its own address.', { status: 421 });
  }
  const origin = request.headers.get('origin');
  if (origin !== null && origin !== `http://${host}`) {
    return new Response('Requests from other sites are refused.', { status: 403 });
  }
  const fromElsewhere = ['cross-site', 'same-site'].includes(request.headers.get('sec-fetch-site') ?? '');
  if (fromElsewhere && request.method !== 'GET') {
    return new Response('Requests from other sites are refused.', { status: 403 });
  }
  await ready;
  const response = await next();
  for (const [name, value] of Object.entries(headers)) response.headers.set(name, value);
  return response;
});
