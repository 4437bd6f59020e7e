import type { APIContext, APIRoute } from 'astro';
import { problemOf, ReadError } from '#core/model/read-error.ts';
import type { z } from '#core/model/schema.ts';
import { isStoreError } from '#core/model/store-error.ts';
import { intakeProblem } from './intake-problem.ts';
import { NotAllowed } from './paths.ts';
import { storeTrouble } from './store-trouble.ts';

/** Largest JSON body taken, in bytes; a scene with its thumbnail stays far below. */
const LARGEST_JSON = 16 * 2 ** 20;
/** Most brackets within each other in a body. */
const DEEPEST_JSON = 100;

export class NotFound extends Error {}

/** Somebody else was first: the answer holds what stands now. */
export class Conflict extends Error {
  constructor(readonly content: object) {
    super('conflict');
  }
}

/** Wraps an endpoint: its value becomes JSON, its errors become reason, place and remedy with a fitting status. */
export function answer(handle: (context: APIContext) => Promise<unknown>): APIRoute {
  return async (context) => {
    try {
      const value = await handle(context);
      if (value instanceof Response) return value;
      return Response.json(value ?? { ok: true });
    } catch (error) {
      if (error instanceof NotFound)
        return problem(404, error.message, 'address', 'Go back to Intake and choose again.');
      if (error instanceof NotAllowed)
        return problem(403, error.message, 'server folder', 'Choose another place.');
      if (error instanceof Conflict) return Response.json(error.content, { status: 409 });
      if (isRefusal(error)) {
        const { reason, where, remedy } = problemOf('request', error);
        return problem(error.status ?? 422, reason, where, remedy);
      }
      const told = storeTrouble(error) ?? error;
      const { reason, where, remedy } = intakeProblem(told);
      return problem(isStoreError(told) ? 507 : 500, reason, where, remedy);
    }
  };
}

/** A refusal, with the status of the answer where 422 does not say it. */
const isRefusal = (error: unknown): error is ReadError & { status?: number } => error instanceof ReadError;

function problem(status: number, reason: string, where: string, remedy: string): Response {
  // What is still arriving of a refused body is not waited for.
  const headers: HeadersInit = status === 413 ? { Connection: 'close' } : {};
  return Response.json({ reason, where, remedy }, { status, headers });
}

class TooLarge extends ReadError {
  readonly status = 413;
}

/** The text of a body, refused as soon as more arrives than is taken. */
async function limitedText(request: Request): Promise<string> {
  const tooLarge = (): TooLarge =>
    new TooLarge(
      `the request is larger than ${LARGEST_JSON / 2 ** 20} MB`,
      'request body',
      'Send less at once.',
    );
  if (Number(request.headers.get('content-length')) > LARGEST_JSON) throw tooLarge();
  const decoder = new TextDecoder();
  let text = '';
  let received = 0;
  for await (const chunk of (request.body ?? []) as unknown as AsyncIterable<Uint8Array>) {
    received += chunk.length;
    if (received > LARGEST_JSON) throw tooLarge();
    text += decoder.decode(chunk, { stream: true });
  }
  return text + decoder.decode();
}

/** How deep brackets stand within each other in a JSON text. */
export function jsonDepth(text: string): number {
  let depth = 0;
  let deepest = 0;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if (c === 34) {
      for (i++; i < text.length && text.charCodeAt(i) !== 34; i++) if (text.charCodeAt(i) === 92) i++;
    } else if (c === 123 || c === 91) deepest = Math.max(deepest, ++depth);
    else if (c === 125 || c === 93) depth--;
  }
  return deepest;
}

/**
 * The body of a request, checked.
 *
 * @throws ReadError when it is too large or too deep, is not JSON, or does not fit the schema
 */
export async function readBody<T>(request: Request, schema: z.ZodType<T>): Promise<T> {
  const text = await limitedText(request);
  if (jsonDepth(text) > DEEPEST_JSON)
    throw new ReadError(
      `more than ${DEEPEST_JSON} brackets stand within each other`,
      'request body',
      'Reload the page and try again.',
    );
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw new ReadError('the request is not JSON', 'request body', 'Reload the page and try again.');
  }
  const result = schema.safeParse(json);
  if (result.success) return result.data;
  const [issue] = result.error.issues;
  throw new ReadError(
    issue.message,
    `request body, ${issue.path.join(' / ').slice(0, 200) || 'top'}`,
    'Correct the entry and try again.',
  );
}
