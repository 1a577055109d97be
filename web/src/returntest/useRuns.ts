import { computed } from 'vue';
import type { Reading, RunNow, RunRecord } from '@/api/types';
import type { JobHandle } from '@/job/useJob';

/** Runs with what the core says of them: which readings stand, and how far each run is. */
export function useRuns(job: JobHandle) {
  const by = computed(() => new Map((job.view.value?.current.runs ?? []).map((one) => [one.run, one])));
  const now = (run: RunRecord | undefined): RunNow | undefined => run && by.value.get(run.id);
  const standing = (run: RunRecord): Reading[] => {
    const ids = new Set(now(run)?.readings);
    return run.readings.filter((one) => ids.has(one.id));
  };
  const ofCylinder = (run: RunRecord, cylinder: number) =>
    standing(run).find((one) => one.cylinder === cylinder);
  const length = (run: RunRecord | undefined) => run?.readings.find((one) => one.id === now(run)?.length);
  return { now, standing, ofCylinder, length };
}
