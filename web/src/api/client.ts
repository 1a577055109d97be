import type { FieldProblem, Job, Problem } from './types';
import { setClock } from './clock';
import { useBench } from '@/shell/useBench';

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

export const SILENT = 'The program does not answer. What you typed is kept; try again.';

/** Asks the program. Throws a {@link Refusal}, never anything else. */
export function ask<T>(method: 'GET' | 'POST' | 'PUT', path: string, body?: unknown): Promise<T> {
  const text = typeof body === 'string' ? body : body === undefined ? undefined : JSON.stringify(body);
  return fetched<T>(method, path, text, useBench().id.value);
}

/** One request, signed by whoever is at the bench; a command carries its id. */
export async function fetched<T>(
  method: string,
  path: string,
  body: string | undefined,
  by: string,
  command?: string,
): Promise<T> {
  const headers: Record<string, string> = {};
  if (by) headers['x-at-bench'] = by;
  if (command) headers['idempotency-key'] = command;
  if (body) headers['content-type'] = 'application/json';
  let response: Response;
  let text: string;
  try {
    response = await fetch(`/api${path}`, { method, headers, body: body || undefined });
    text = await response.text();
    setClock(response.headers);
  } catch {
    throw new Refusal(0, 'silent', SILENT);
  }
  if (response.ok) return (text ? JSON.parse(text) : undefined) as T;
  const problem = parsed(text);
  const code = problem?.code ?? 'unknown';
  if (code === 'nobody_at_the_bench') useBench().choose();
  throw new Refusal(response.status, code, problem?.detail ?? SILENT, problem?.fields, problem?.current);
}

function parsed(text: string): Problem | undefined {
  try {
    return JSON.parse(text) as Problem;
  } catch {
    return undefined;
  }
}

/** Whatever was thrown, as a refusal. */
export function refusal(error: unknown): Refusal {
  return error instanceof Refusal ? error : new Refusal(0, 'unknown', String(error));
}
