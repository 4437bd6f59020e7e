import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { answer, NotFound } from '#web/server/answer.ts';
import { ArrayStore } from '#web/server/array-store.ts';
import { arraysFolder } from '#web/server/paths.ts';

const store = new ArrayStore(arraysFolder);

/** The bytes of an array, or a range of them. The name is the content, so it may be kept for ever. */
export const GET = answer(async ({ params, request }) => {
  const hash = params.hash ?? '';
  if (!/^[0-9a-f]{64}$/.test(hash)) throw new NotFound('There is no such array.');
  const path = store.pathOf(hash);
  const size = (await stat(path).catch(() => null))?.size;
  if (size === undefined) throw new NotFound('There is no such array.');
  const headers = {
    'Content-Type': 'application/octet-stream',
    'Cache-Control': 'public, max-age=31536000, immutable',
    'Accept-Ranges': 'bytes',
  };
  const asked = /^bytes=(\d+)-(\d*)$/.exec(request.headers.get('range') ?? '');
  const start = asked ? Number(asked[1]) : 0;
  const end = asked?.[2] ? Math.min(Number(asked[2]), size - 1) : size - 1;
  if (asked && (start > end || start >= size)) {
    return new Response(null, { status: 416, headers: { 'Content-Range': `bytes */${size}` } });
  }
  const body = size === 0 ? null : (Readable.toWeb(createReadStream(path, { start, end })) as ReadableStream);
  return new Response(body, {
    status: asked ? 206 : 200,
    headers: {
      ...headers,
      'Content-Length': String(end - start + 1),
      ...(asked ? { 'Content-Range': `bytes ${start}-${end}/${size}` } : {}),
    },
  });
});
