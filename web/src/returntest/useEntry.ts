import { computed, inject, nextTick, provide, ref, watch, type InjectionKey } from 'vue';
import { refusal } from '@/api/client';
import type { Reading, ReadingKind, RunRecord } from '@/api/types';
import { newId } from '@/domain/identity';
import { covers, ofCylinder, runTime } from '@/domain/readings';
import { useDraft } from '@/domain/useDraft';
import type { JobHandle } from '@/job/useJob';

/** A reading that is being taken back for a better one. */
interface Correcting {
  run: RunRecord;
  reading: Reading;
  why: string;
}

/** Entry of one run: which column is next, what is typed, what was refused. */
function makeEntry(job: JobHandle) {
  const run = computed<RunRecord | undefined>(() => job.test.value?.runs.at(-1));
  const correcting = ref<Correcting | null>(null);
  const wrong = ref('');
  /** What is typed is a level, or the time at which the bottle was full. */
  const overflow = ref(false);
  const chosen = ref<number | null>(null);

  /** Columns of this run: those of its bank, or all. */
  const covered = computed(() => covers(run.value, job.view.value?.banks ?? []));
  const unread = computed(() => (run.value ? covered.value.filter((c) => !ofCylinder(run.value!, c)) : []));
  /** The column that is typed into; null while the length of the run is asked. */
  const cylinder = computed<number | null>(() => {
    if (correcting.value) return correcting.value.reading.cylinder ?? null;
    if (!run.value || !runTime(run.value)) return null;
    if (chosen.value !== null && unread.value.includes(chosen.value)) return chosen.value;
    return unread.value[0] ?? null;
  });
  const field = computed(() =>
    correcting.value
      ? `fix-${correcting.value.reading.id}`
      : `${run.value?.id ?? 'none'}-${cylinder.value ?? 'time'}`,
  );
  const typed = useDraft(field);
  watch(
    field,
    () => {
      wrong.value = '';
      overflow.value = correcting.value?.reading.kind === 'overflow';
      void focus();
    },
    { immediate: true },
  );

  async function focus() {
    await nextTick();
    document.querySelector<HTMLInputElement>('[data-entry]')?.focus();
  }

  /** A reading to send; `typed` null lets the running timer say the time. */
  interface Sent {
    kind: ReadingKind;
    typed: string | null;
    cylinder?: number | null;
    corrects?: string;
    why?: string;
  }

  async function send(into: RunRecord, body: Sent) {
    try {
      await job.change('POST', `/runs/${into.id}/readings`, { id: newId(), ...body });
      wrong.value = '';
      return true;
    } catch (error) {
      const problem = refusal(error);
      wrong.value = problem.about('typed') || problem.about('why') || problem.message;
      return false;
    }
  }

  /** Keeps what is typed and goes to the next column. */
  async function keep() {
    const text = typed.value;
    if (correcting.value) {
      const { run, reading, why } = correcting.value;
      const kind =
        reading.kind === 'run_time' || reading.kind === 'mark'
          ? reading.kind
          : overflow.value
            ? 'overflow'
            : 'level';
      const done = await send(run, {
        kind,
        cylinder: reading.cylinder,
        typed: text,
        corrects: reading.id,
        why,
      });
      if (done) {
        typed.value = '';
        correcting.value = null;
      }
    } else if (run.value) {
      const asked = cylinder.value;
      const kind = asked === null ? 'run_time' : overflow.value ? 'overflow' : 'level';
      if (await send(run.value, { kind, cylinder: asked, typed: text })) {
        localStorage.removeItem(`draft-${run.value.id}-${asked ?? 'time'}`);
        chosen.value = null;
      }
    }
    void focus();
  }

  return {
    run,
    unread,
    cylinder,
    typed,
    wrong,
    overflow,
    covered,
    correcting,
    keep,
    focus,
    go: (to: number) => {
      chosen.value = to;
      void focus();
    },
    /** The bottle of a running lane is full now. */
    full: async (cylinder: number) => {
      if (!run.value || !covered.value.includes(cylinder)) return;
      const held = ofCylinder(run.value, cylinder);
      const mark = job.test.value?.setup.mark_ml != null;
      if (held)
        await send(run.value, {
          kind: 'void',
          cylinder,
          typed: '',
          corrects: held.id,
          why: 'tapped by mistake',
        });
      else {
        const kept = await send(run.value, { kind: mark ? 'mark' : 'overflow', cylinder, typed: null });
        // Every bottle has reached its mark: there is nothing left to run for.
        if (kept && mark && !unread.value.length) await send(run.value, { kind: 'run_time', typed: null });
      }
    },
    /** Stop now: the timer of the program says how long it was. */
    stop: () => (run.value ? send(run.value, { kind: 'run_time', typed: null }) : undefined),
    correct: (run: RunRecord, reading: Reading) => {
      correcting.value = { run, reading, why: 'typing slip' };
    },
    leave: () => (correcting.value = null),
  };
}

export type Entry = ReturnType<typeof makeEntry>;
const key: InjectionKey<Entry> = Symbol('entry');

export function provideEntry(job: JobHandle): Entry {
  const entry = makeEntry(job);
  provide(key, entry);
  return entry;
}

export function useEntry(): Entry {
  const entry = inject(key);
  if (!entry) throw new Error('an entry part stands outside of a return test');
  return entry;
}
