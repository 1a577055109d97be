import type { FieldProblem, Job } from './types';
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

const SILENT = 'The program does not answer. What you typed is kept; try again.';

/** Asks the program. Throws a {@link Refusal}, never anything else. */
export async function ask<T>(method: 'GET' | 'POST' | 'PUT', path: string, body?: unknown): Promise<T> {
  const bench = useBench();
  const headers: Record<string, string> = {};
  if (bench.id.value) headers['x-at-bench'] = bench.id.value;
  if (body !== undefined) headers['content-type'] = 'application/json';
  const text = typeof body === 'string' ? body : body === undefined ? undefined : JSON.stringify(body);
  let response: Response;
  try {
    response = await fetch(`/api${path}`, { method, headers, body: text });
  } catch {
    throw new Refusal(0, 'silent', SILENT);
  }
  if (response.status === 204) return undefined as T;
  if (response.ok) return (await response.json()) as T;
  const problem = await response.json().catch(() => null);
  const code = problem?.code ?? 'unknown';
  if (code === 'nobody_at_the_bench') bench.choose();
  throw new Refusal(response.status, code, problem?.detail ?? SILENT, problem?.fields, problem?.current);
}

/** Whatever was thrown, as a refusal. */
export function refusal(error: unknown): Refusal {
  return error instanceof Refusal ? error : new Refusal(0, 'unknown', String(error));
}
