import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref, type Ref } from 'vue';
import { ask, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { TrainerAct } from '@/api/types';
import { newId } from '@/domain/identity';
import type { JobHandle } from '@/job/useJob';

/** The exercise that a job is, if it is one: how it stands, and what can be done at its engine. */
export function useExercise(job: JobHandle) {
  const cache = useQueryClient();
  const is = computed(() => !!job.view.value?.file.job.exercise);
  const query = useQuery({
    queryKey: computed(() => ['exercise', job.id.value]),
    queryFn: () => ask('get', '/api/jobs/{job}/exercise', { params: { path: { job: job.id.value } } }),
    enabled: is,
  });
  const state = computed(() => (is.value ? query.data.value : undefined));
  const wrong = ref('');
  const busy = ref(false);

  /** Whatever was done, the job and its exercise are another by then. */
  async function anew() {
    await Promise.all([
      cache.refetchQueries({ queryKey: ['job', job.id.value], exact: true }),
      cache.refetchQueries({ queryKey: ['exercise', job.id.value] }),
    ]);
  }

  async function tries(run: () => Promise<unknown>): Promise<boolean> {
    if (busy.value) return false;
    busy.value = true;
    try {
      await run();
      await anew();
      wrong.value = '';
      return true;
    } catch (error) {
      const said = refusal(error);
      wrong.value = said.fields[0]?.message ?? said.message;
      return false;
    } finally {
      busy.value = false;
    }
  }

  const does = (what: TrainerAct) =>
    tries(() =>
      act('post', '/api/jobs/{job}/exercise/acts', {
        params: { path: { job: job.id.value } },
        body: { id: newId(), act: what },
      }),
    );

  /** Reads a check: one cell, or everything that is still open. */
  const readSheet = (sheet: string, spot?: { cell: string; cylinder: number | null }) =>
    tries(() =>
      act('post', '/api/sheets/{sheet}/exercise', {
        params: { path: { sheet } },
        body: { id: newId(), cell: spot?.cell ?? null, cylinder: spot?.cylinder ?? null },
      }),
    );

  /** Reads a run: its length and its bottles. */
  const readRun = (run: string) =>
    tries(() =>
      act('post', '/api/runs/{run}/exercise', {
        params: { path: { run } },
        body: { id: newId(), cell: null, cylinder: null },
      }),
    );

  return { is, state, query, wrong, busy, does, readSheet, readRun, anew };
}

export type ExerciseHandle = ReturnType<typeof useExercise>;

/** Takes a case up; the job that it becomes. */
export async function takeUp(
  what: { case: object; guided: boolean; learner?: string | null },
  wrong: Ref<string>,
): Promise<string | undefined> {
  const id = newId();
  try {
    await act('post', '/api/trainer/exercises', {
      body: { id, case: what.case as never, guided: what.guided, learner: what.learner ?? null },
    });
    wrong.value = '';
    return id;
  } catch (error) {
    const said = refusal(error);
    wrong.value = said.fields[0]?.message ?? said.message;
    return undefined;
  }
}
