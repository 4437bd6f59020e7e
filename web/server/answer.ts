import type { APIContext, APIRoute } from 'astro';
import type { z } from 'zod';
import { problemOf, ReadError } from '#core/model/read-error.ts';
import { NotAllowed } from './paths.ts';

/** Largest JSON body taken, in bytes; a scene with its thumbnail stays far below. */
const LARGEST_JSON = 32 * 2 ** 20;

export class NotFound extends Error {}

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
      const status = error instanceof ReadError ? 422 : 500;
      if (status === 500) console.error(error);
      const { reason, where, remedy } = problemOf('request', error);
      return problem(status, reason, where, remedy);
    }
  };
}

function problem(status: number, reason: string, where: string, remedy: string): Response {
  return Response.json({ reason, where, remedy }, { status });
}

/**
 * The body of a request, checked.
 *
 * @throws ReadError when it is too large, is not JSON, or does not fit the schema
 */
export async function readBody<T>(request: Request, schema: z.ZodType<T>): Promise<T> {
  const text = await request.text();
  if (text.length > LARGEST_JSON)
    throw new ReadError('the request is too large', 'request body', 'Send less at once.');
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
    `request body, ${issue.path.join(' / ') || 'top'}`,
    'Correct the entry and try again.',
  );
}
