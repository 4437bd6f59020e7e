import { defineMiddleware } from 'astro:middleware';
import { refusalOf, safetyHeaders } from '#web/server/gate.ts';
import { tidyUploads } from '#web/server/intake.ts';
import '#web/server/jobs/registry.ts';
import { emptyOut } from '#web/server/removed.ts';
import { tidyPictures } from '#web/server/render-pictures.ts';
import { sweepReports } from '#web/server/reports/kept-reports.ts';
import { sweepStore } from '#web/server/store-sweep.ts';
import { keepWatching } from '#web/server/watched-sets.ts';

// Nothing is served before the leftovers of an interrupted server are cleared, and what was taken away long ago.
const ready = Promise.all([tidyUploads(), tidyPictures(), sweepStore(), emptyOut(), sweepReports()]);
ready.then(keepWatching).catch((error: unknown) => console.error(error));

export const onRequest = defineMiddleware(async ({ request }, next) => {
  // In service the front door has looked already; while developing this is the only door there is.
  if (import.meta.env.DEV) {
    const { method, headers } = request;
    const refusal = refusalOf({
      method,
      address: new URL(request.url).pathname,
      host: headers.get('host'),
      origin: headers.get('origin'),
      site: headers.get('sec-fetch-site'),
    });
    if (refusal) return new Response(refusal.text, { status: refusal.status });
  }
  await ready;
  const response = await next();
  if (import.meta.env.DEV)
    for (const [name, value] of Object.entries(safetyHeaders))
      if (name !== 'Content-Security-Policy') response.headers.set(name, value);
  return response;
});
