import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, inject, provide, type InjectionKey, type Ref } from 'vue';
import { ask, type Address, type Asked } from '@/api/client';
import { act } from '@/api/outbox';
import { newId } from '@/domain/identity';
import type { Decision, DecisionRecord, Event, JobView, TestRecord, Verdict } from '@/api/types';

/** A decision that an act rests on, made in the same step. */
export type Decided = { cylinder: number; decision: Decision; reason: string };

/** One job as the views of its stages see it. */
export function makeJob(id: Ref<string>) {
  const cache = useQueryClient();
  const query = useQuery({
    queryKey: computed(() => ['job', id.value]),
    queryFn: () => ask('get', '/api/jobs/{job}', { params: { path: { job: id.value } } }),
  });
  const view = computed(() => query.data.value);
  const test = computed<TestRecord | undefined>(() => view.value?.file.return_tests.at(-1));
  const verdict = computed<Verdict | undefined>(() => view.value?.verdicts.at(-1));
  /** The newest verdict that rests on readings: a new empty test does not hide it. */
  const judged = computed<Verdict | undefined>(() => view.value?.verdicts.findLast((one) => one.runs > 0));

  /** Does something to the job, and shows what the rules make of it. */
  async function change<M extends 'post' | 'put', P extends Address<M>>(
    method: M,
    address: P,
    ...init: Asked<P, M>
  ): Promise<JobView> {
    await act(method, address, ...init);
    // Whatever was asked for before does not know of it yet.
    await cache.refetchQueries({ queryKey: ['job', id.value], exact: true });
    return view.value!;
  }

  /** Something that happened besides readings. */
  function happened(event: Event, pin?: string, decision?: Decided): Promise<JobView> {
    return change('post', '/api/jobs/{job}/events', {
      params: { path: { job: id.value }, header: pin ? { 'x-pin': pin } : {} },
      body: { id: newId(), event, decision: decision && { id: newId(), ...decision } },
    });
  }

  function person(by: string): string {
    return view.value?.file.people.find((one) => one.id === by)?.name ?? '';
  }

  function decision(cylinder: number): DecisionRecord | undefined {
    const newest = view.value?.current.decisions ?? [];
    return view.value?.file.decisions.find((one) => one.cylinder === cylinder && newest.includes(one.id));
  }

  /** Labels where the injectors sit now. */
  const labels = computed<Record<number, string>>(() =>
    Object.fromEntries((view.value?.seats ?? []).map((one) => [one.cylinder, one.label])),
  );

  /** Labels as the injectors sat when a return test was read; of the newest that rests on readings unless one is named. */
  function labelsThen(at?: number | null): Record<number, string> {
    const newest = view.value?.verdicts.findLastIndex((one) => one.runs > 0) ?? -1;
    return view.value?.labels_then[at ?? newest] ?? labels.value;
  }

  return { id, query, view, test, verdict, judged, labels, labelsThen, change, happened, person, decision };
}

export type JobHandle = ReturnType<typeof makeJob>;

const key: InjectionKey<JobHandle> = Symbol('job');

export function provideJob(job: JobHandle): void {
  provide(key, job);
}

export function useJob(): JobHandle {
  const job = inject(key);
  if (!job) throw new Error('this view needs a job around it');
  return job;
}

/** The job around a view, or none: the intake serves new jobs too. */
export function useMaybeJob(): JobHandle | undefined {
  return inject(key, undefined);
}
