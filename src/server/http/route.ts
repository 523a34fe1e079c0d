import type { Knex } from 'knex';
import type { z } from 'zod';
import { FileName } from '@/core/shop/job';
import { database } from '../db/connection';
import { inWords, isDiskFull, Problem, type ProblemKind } from '../problem';

const STATUS: Record<ProblemKind, number> = {
  usage: 400,
  input: 422,
  conflict: 409,
  missing: 404,
  work: 500,
  full: 507,
};

/** Whoever asked gave it up meanwhile. */
const GIVEN_UP = 499;

/** Largest JSON body: a work with all its trials is a few kilobytes. */
const JSON_LIMIT = 1 << 20;

interface Call<Params> {
  db: Knex;
  request: Request;
  params: Params;
}

/**
 * Makes a route handler of a function: gives it the database, answers its value as JSON (or its
 * Response as it is), and turns trouble into words with the right status.
 */
export function route<Params = object>(handle: (call: Call<Params>) => Promise<unknown>) {
  return async (request: Request, context: { params: Promise<Params> }): Promise<Response> => {
    try {
      refuseForeign(request);
      const answer = await handle({ db: await database(), request, params: await context.params });
      const response = answer instanceof Response ? answer : Response.json(answer ?? null);
      return request.method === 'HEAD' ? await headOf(response) : response;
    } catch (error) {
      // Nobody hears the answer.
      if (request.signal.aborted) return new Response(null, { status: GIVEN_UP });
      const problem = error instanceof Problem ? error : null;
      if (!problem) console.error(error);
      return Response.json(
        { message: inWords(error), facts: problem?.facts },
        { status: STATUS[problem?.kind ?? (isDiskFull(error) ? 'full' : 'work')] },
      );
    }
  };
}

/** An answer without its body, whose file nobody would read to its end. */
async function headOf({ status, headers, body }: Response): Promise<Response> {
  await body?.cancel();
  return new Response(null, { status, headers });
}

/** Pages of other sites must not change anything here, though the browser would send their call. */
function refuseForeign(request: Request): void {
  const origin = request.headers.get('origin');
  const host = request.headers.get('host');
  if (request.method === 'GET' || !origin) return;
  if (!URL.canParse(origin) || new URL(origin).host !== host) {
    throw new Problem('usage', 'This call came from another site and was refused.');
  }
}

/**
 * The request's JSON body in the shape of a schema.
 * @throws Problem that names the field which doesn't fit
 */
export async function body<T>(request: Request, schema: z.ZodType<T>): Promise<T> {
  const text = await bytes(request, JSON_LIMIT);
  let value: unknown;
  try {
    value = JSON.parse(new TextDecoder().decode(text));
  } catch {
    throw new Problem('usage', 'The request is not JSON.');
  }
  const parsed = schema.safeParse(value);
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  throw new Problem('usage', `${issue!.path.join('.') || 'The request'}: ${issue!.message}`);
}

/** The request's query in the shape of a schema. */
export function query<T>(request: Request, schema: z.ZodType<T>): T {
  const asked = Object.fromEntries(new URL(request.url).searchParams);
  const parsed = schema.safeParse(asked);
  if (!parsed.success) throw new Problem('missing', 'There is nothing at this address.');
  return parsed.data;
}

/**
 * The request's body as bytes, read only as far as it may go.
 * @throws Problem where it is larger than `limit`
 */
export async function bytes(request: Request, limit: number): Promise<Uint8Array> {
  const parts: Uint8Array[] = [];
  let total = 0;
  const reader = request.body?.getReader();
  for (let read = await reader?.read(); read && !read.done; read = await reader!.read()) {
    total += read.value.length;
    if (total > limit) {
      await reader!.cancel();
      throw new Problem('usage', 'The request is too large.');
    }
    parts.push(read.value);
  }
  return Buffer.concat(parts);
}

/** The name of the file whose bytes are a request's body: in a header, percent-encoded. */
export function fileNameFrom(request: Request): string {
  const text = request.headers.get('x-file-name') ?? '';
  try {
    return FileName.parse(decodeURIComponent(text));
  } catch {
    return FileName.parse(text);
  }
}

/** A whole number from a path. */
export function numberFrom(text: string): number {
  if (!/^\d{1,9}$/.test(text)) throw new Problem('missing', 'There is nothing at this address.');
  return Number(text);
}

/** The number of a page from a path: they are counted from 1. */
export function pageFrom(text: string): number {
  const page = numberFrom(text);
  if (page === 0) throw new Problem('missing', 'Pages are counted from 1.');
  return page;
}

/** Bytes that never change for their address, such as tiles of an original. */
export const forever = { 'Cache-Control': 'private, max-age=31536000, immutable' };
