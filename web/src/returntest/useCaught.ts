import { computed, inject, provide, ref, type InjectionKey } from 'vue';
import { refusal } from '@/api/client';
import { act } from '@/api/outbox';
import { useLive } from '@/connections/useLive';
import type { JobHandle } from '@/job/useJob';
import type { Entry } from './useEntry';

/** A run whose bottles an instrument reads: what stands in them now, and whether it is being recorded. */
function makeCaught(job: JobHandle, entry: Entry) {
  const by = computed(() => {
    const running = entry.runs.now(entry.run.value)?.state === 'running';
    return running ? (entry.run.value?.caught_by ?? undefined) : undefined;
  });
  const live = useLive(() => by.value?.connection);
  const level = (cylinder: number) => live.look.value?.values[cylinder - 1];
  /** The program was started anew meanwhile: the instrument shows, and nobody keeps it. */
  const dropped = computed(
    () => !!by.value && !!live.look.value && live.look.value.caught !== entry.run.value?.id,
  );
  const wrong = ref('');
  async function does(what: 'take up' | 'end') {
    const path = { run: entry.run.value!.id };
    try {
      if (what === 'end') await act('post', '/api/runs/{run}/live/end', { params: { path } });
      else await act('post', '/api/runs/{run}/live', { params: { path } });
      wrong.value = '';
    } catch (error) {
      wrong.value = refusal(error).message;
    }
    await job.query.refetch();
  }
  return { by, live, level, dropped, wrong, takeUp: () => does('take up'), end: () => does('end') };
}

export type Caught = ReturnType<typeof makeCaught>;
const key: InjectionKey<Caught> = Symbol('caught');

export function provideCaught(job: JobHandle, entry: Entry): Caught {
  const caught = makeCaught(job, entry);
  provide(key, caught);
  return caught;
}

export function useCaught(): Caught {
  const caught = inject(key);
  if (!caught) throw new Error('a live part stands outside of a return test');
  return caught;
}
