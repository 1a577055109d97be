import { useQuery } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import { ask } from '@/api/client';
import type { Phase, StartId } from '@/api/types';
import type { JobHandle } from '@/job/useJob';

const PHASES: Phase[] = ['idle', 'raised', 'idle_again'];

/** What is asked for before a run: start conditions, the phase, the bank. */
export function useBefore(job: JobHandle) {
  const fuel = computed(() => job.view.value?.file.job.intake.fuel_system);
  const forms = useQuery({
    queryKey: computed(() => ['return-forms', fuel.value]),
    queryFn: () => ask('get', '/api/return-tests', { params: { query: { fuel: fuel.value } } }),
    staleTime: Infinity,
  });
  const regime = computed(() => job.test.value?.setup.regime ?? 'idle_only');
  const form = computed(() => forms.data.value?.find((one) => one.regime === regime.value));
  const ticked = ref<StartId[]>([]);
  const phase = ref<Phase | null>(null);
  const bank = ref<number | null>(null);
  /** Ticks live in this browser until their run begins, and go with it then. */
  const draft = () => `draft-ticks-${job.test.value?.id}-${job.test.value?.runs.length ?? 0}`;
  // What held before the last run likely holds before this one; bottles have to be emptied anew.
  watch(
    () => job.test.value?.runs.length,
    () => {
      const next = job.view.value?.current.next_run;
      const kept = localStorage.getItem(draft());
      ticked.value = kept ? (JSON.parse(kept) as StartId[]) : (next?.ticked ?? []);
      phase.value = next?.phase ?? null;
      bank.value = next?.bank ?? null;
    },
    { immediate: true },
  );
  function keep(ids: StartId[]) {
    ticked.value = ids;
    localStorage.setItem(draft(), JSON.stringify(ids));
  }
  return {
    form,
    ticked,
    phase,
    bank,
    phases: PHASES,
    turn: (id: StartId, on: boolean) =>
      keep(on ? [...ticked.value, id] : ticked.value.filter((one) => one !== id)),
    all: () => keep((form.value?.start ?? []).map((one) => one.id)),
  };
}
