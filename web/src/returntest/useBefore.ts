import { useQuery } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import { ask } from '@/api/client';
import type { Phase, ReturnForm } from '@/api/types';
import type { JobHandle } from '@/job/useJob';

const PHASES: Phase[] = ['idle', 'raised', 'idle_again'];

/** What is asked for before a run: start conditions, the phase, the bank. */
export function useBefore(job: JobHandle) {
  const fuel = computed(() => job.view.value?.file.job.intake.fuel_system ?? '');
  const forms = useQuery({
    queryKey: computed(() => ['return-forms', fuel.value]),
    queryFn: () => ask<ReturnForm[]>('GET', `/return-tests${fuel.value ? `?fuel=${fuel.value}` : ''}`),
    staleTime: Infinity,
  });
  const regime = computed(() => job.test.value?.setup.regime ?? 'idle_only');
  const form = computed(() => forms.data.value?.find((one) => one.regime === regime.value));
  const counting = computed(() => (job.test.value?.runs ?? []).filter((run) => !run.set_aside));
  const ticked = ref<string[]>([]);
  const phase = ref<Phase | null>(null);
  const bank = ref<number | null>(null);
  /** Ticks live in this browser until their run begins, and go with it then. */
  const draft = () => `draft-ticks-${job.test.value?.id}-${job.test.value?.runs.length ?? 0}`;
  // What held before the last run likely holds before this one; bottles have to be emptied anew.
  watch(
    () => job.test.value?.runs.length,
    () => {
      const last = counting.value.at(-1);
      const kept = localStorage.getItem(draft());
      ticked.value = kept
        ? (JSON.parse(kept) as string[])
        : (last?.ticked ?? []).filter((id) => id !== 'hoses_purged');
      const at = last?.phase ? PHASES.indexOf(last.phase) : -1;
      phase.value = regime.value === 'stepped' ? PHASES[(at + 1) % PHASES.length]! : null;
      const banks = job.view.value?.banks.length ?? 1;
      bank.value = last?.bank == null || banks < 2 ? null : (last.bank + 1) % banks;
    },
    { immediate: true },
  );
  function keep(ids: string[]) {
    ticked.value = ids;
    localStorage.setItem(draft(), JSON.stringify(ids));
  }
  return {
    form,
    ticked,
    phase,
    bank,
    phases: PHASES,
    turn: (id: string, on: boolean) =>
      keep(on ? [...ticked.value, id] : ticked.value.filter((one) => one !== id)),
    all: () => keep((form.value?.start ?? []).map((one) => one.id)),
  };
}
