import type { Reading, RunRecord } from '@/api/types';

/** The readings of a run that stand: corrected and voided ones left out. */
export function standing(run: RunRecord): Reading[] {
  const corrected = new Set(run.readings.map((reading) => reading.corrects));
  return run.readings.filter((reading) => reading.kind !== 'void' && !corrected.has(reading.id));
}

export function ofCylinder(run: RunRecord, cylinder: number): Reading | undefined {
  return standing(run).find((reading) => reading.cylinder === cylinder);
}

export function runTime(run: RunRecord): Reading | undefined {
  return standing(run).find((reading) => reading.kind === 'run_time');
}

/** Columns that a run covers: those of its bank, or all. */
export function covers(run: RunRecord | undefined, banks: number[][]): number[] {
  return run?.bank == null ? banks.flat() : (banks[run.bank] ?? []);
}

/** What a reading says in a cell: a level, or when a bottle was full or reached its mark. */
export function said(reading: Reading): string {
  const value = String(Math.round(reading.value * 10) / 10);
  if (reading.kind === 'overflow') return `full ${value} s`;
  if (reading.kind === 'mark') return `${reading.mark_ml} ml in ${value} s`;
  return value;
}

/** What the run is waiting for. */
export function phase(
  run: RunRecord | undefined,
  cylinders: number,
): 'none' | 'running' | 'reading' | 'read' {
  if (!run || run.set_aside) return 'none';
  if (run.started_at && !runTime(run)) return 'running';
  const read = standing(run).filter((reading) => reading.cylinder != null).length;
  return read < cylinders || !runTime(run) ? 'reading' : 'read';
}
