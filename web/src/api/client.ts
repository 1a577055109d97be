import createClient, { createFinalURL, createQuerySerializer, defaultPathSerializer } from 'openapi-fetch';
import type { FetchResponse, MaybeOptionalInit } from 'openapi-fetch';
import type { MediaType, PathsWithMethod, RequiredKeysOf } from 'openapi-typescript-helpers';
import { useBench } from '@/shell/useBench';
import { setClock } from './clock';
import type { paths } from './schema';
import type { FieldProblem, Job, Problem } from './types';
import { noAnswerCobaltineYour } from '@/api/words';

/** A refusal of the program, in words for the user. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    detail: string,
    readonly fields: FieldProblem[] = [],
    readonly current: Job | null = null,
  ) {
    super(detail);
  }

  /** What is wrong with one field, if anything. */
  about(field: string): string {
    return this.fields.find((problem) => problem.field === field)?.message ?? '';
  }
}

export const SILENT = noAnswerCobaltineYour;

/** The revision of the oldest answer of this page: what was written after it may be missing on the screen. */
export const oldest = { revision: Number.POSITIVE_INFINITY };

/** One request, signed by whoever is at the bench unless it is signed already. */
async function transport(request: Request): Promise<Response> {
  const bench = useBench();
  const by = bench.id.value;
  if (by && !request.headers.has(BY)) request.headers.set(BY, by);
  if (beside.units && !request.headers.has(UNITS)) request.headers.set(UNITS, beside.units);
  // Sent once more when the password is asked for again.
  const again = bench.open.value || request.method === 'GET' ? undefined : request.clone();
  let response: Response;
  try {
    response = await fetch(request);
    // A connection that breaks off while the answer comes is no answer; one without a body has none to wait for.
    const body = await response.arrayBuffer();
    response = new Response(body.byteLength ? body : null, response);
  } catch {
    throw new Refusal(0, 'silent', SILENT);
  }
  setClock(response.headers);
  const revision = Number(response.headers.get('etag')?.split('-')[1] ?? Number.NaN);
  if (revision < oldest.revision) oldest.revision = revision;
  if (response.ok) return response;
  const problem = (await response.json().catch(() => undefined)) as Problem | undefined;
  const code = problem?.code ?? 'unknown';
  if (code === 'nobody_at_the_bench') bench.choose();
  if (code === 'signed_out' || code === 'someone_else') void whoIsIn();
  if (code === 'not_fresh' && again && (await bench.freshen())) return transport(again);
  throw new Refusal(response.status, code, problem?.detail ?? SILENT, problem?.fields, problem?.current);
}

const BY = 'x-at-bench';
const UNITS = 'x-units';
/** The PIN of a second signature. */
export const PIN = 'x-pin';
/** The units that stand beside the fields of this page: what is typed is meant in them. */
export const beside = { units: '' };
const client = createClient<paths>({ fetch: transport });

export type Method = 'get' | 'post' | 'put';
export type Address<M extends Method> = PathsWithMethod<paths, M>;
type Init<P extends keyof paths, M extends Method> = MaybeOptionalInit<paths[P], M>;
/** What an address names, what is asked and what is sent; nothing where nothing has to be. */
export type Asked<P extends keyof paths, M extends Method> =
  RequiredKeysOf<Init<P, M>> extends never ? [Init<P, M>?] : [Init<P, M>];
export type Answer<P extends keyof paths, M extends Method> = NonNullable<
  FetchResponse<NonNullable<paths[P][M]>, object, MediaType>['data']
>;

/** Asks the program. Throws a {@link Refusal}, never anything else. */
export async function ask<M extends Method, P extends Address<M>>(
  method: M,
  address: P,
  ...init: Asked<P, M>
): Promise<Answer<P, M>> {
  const { data } = await client.request(method, address, ...(init as never));
  return data as Answer<P, M>;
}

/** Asks who is in. A program that does not answer leaves it as it was, and so does an answer that was overtaken. */
export async function whoIsIn(): Promise<void> {
  const bench = useBench();
  const before = bench.sign.value;
  try {
    const view = await ask('get', '/api/sign-in');
    if (bench.sign.value === before) bench.took(view);
  } catch {
    // Said by whatever is asked next.
  }
}

/** Where something is asked, with what its address names put in. */
export function urlOf(address: string, params: object): string {
  return createFinalURL(address, {
    baseUrl: '',
    params,
    querySerializer: createQuerySerializer(),
    pathSerializer: defaultPathSerializer,
  });
}

/** A command as it was when the person acted; it carries its id. */
export async function sent(
  method: string,
  url: string,
  body: string,
  by: string,
  id: string,
  units = beside.units,
  pin = '',
): Promise<unknown> {
  const headers: Record<string, string> = { 'idempotency-key': id };
  if (units) headers[UNITS] = units;
  if (by) headers[BY] = by;
  if (pin) headers[PIN] = pin;
  if (body) headers['content-type'] = 'application/json';
  const answer = await transport(new Request(url, { method, headers, body: body || undefined }));
  const text = await answer.text();
  return text ? JSON.parse(text) : undefined;
}

/** Whatever was thrown, as a refusal. */
export function refusal(error: unknown): Refusal {
  return error instanceof Refusal ? error : new Refusal(0, 'unknown', String(error));
}
