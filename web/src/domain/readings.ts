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
