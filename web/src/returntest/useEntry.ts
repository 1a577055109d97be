import { computed, inject, nextTick, provide, ref, watch, type InjectionKey } from 'vue';
import { refusal } from '@/api/client';
import type { Reading, ReadingKind, RunRecord } from '@/api/types';
import { newId } from '@/domain/identity';
import { useCells } from '@/entry/useCells';
import type { JobHandle } from '@/job/useJob';
import { begunByMistake } from './words';
import { useRuns } from './useRuns';

/** A reading that is being taken back for a better one. */
interface Correcting {
  run: RunRecord;
  reading: Reading;
  why: string;
}

/** The column that is typed into: of a bottle, of the length of the run, or of a correction. */
interface ColumnSpot {
  run: string;
  column: number | null;
  fix: string | null;
}

/** A reading to send; `typed` null lets the running timer say the time. */
interface Sent {
  kind: ReadingKind;
  typed: string | null;
  cylinder?: number | null;
  corrects?: string;
  why?: string;
}

/** Entry of one run: which column is next, what is typed, what was refused. */
function makeEntry(job: JobHandle) {
  const runs = useRuns(job);
  const correcting = ref<Correcting | null>(null);
  const wrong = ref('');
  /** What is typed is a level, or the time at which the bottle was full. */
  const overflow = ref(false);
  /** What a finger is in, or chose: another screen that reads or begins moves it nowhere. */
  const chosen = ref<number | null>(null);
  const pinned = ref<{ run: string; column: number | null }>();

  const run = computed<RunRecord | undefined>(() => {
    const all = job.test.value?.runs ?? [];
    return all.find((one) => one.id === pinned.value?.run) ?? all.at(-1);
  });
  /** Columns of this run: those of its bank, or all. */
  const covered = computed(() => runs.now(run.value)?.covers ?? job.view.value?.banks.flat() ?? []);
  const unread = computed(() => runs.now(run.value)?.unread ?? []);
  /** The column that is typed into; null while the length of the run is asked. */
  const cylinder = computed<number | null>(() => {
    if (correcting.value) return correcting.value.reading.cylinder ?? null;
    if (pinned.value) return pinned.value.column;
    if (!runs.length(run.value)) return null;
    if (chosen.value !== null && unread.value.includes(chosen.value)) return chosen.value;
    return unread.value[0] ?? null;
  });
  const spot = computed<ColumnSpot>(() => ({
    run: correcting.value?.run.id ?? run.value?.id ?? 'none',
    column: cylinder.value,
    fix: correcting.value?.reading.id ?? null,
  }));
  const name = ({ run, column, fix }: ColumnSpot) => `${fix ?? `${run}-${column ?? 'time'}`}`;
  const cells = useCells<ColumnSpot, Omit<Sent, 'typed'>>({
    scope: () => 'return',
    name,
    // A column is read once; another number in it is a correction, with its reason.
    stands: () => undefined,
    where: () => {
      const fix = correcting.value;
      const kind = fix?.reading.kind ?? (cylinder.value === null ? 'run_time' : 'level');
      const timed = kind === 'run_time' || kind === 'mark';
      return {
        kind: timed ? kind : overflow.value ? 'overflow' : 'level',
        cylinder: cylinder.value,
        ...(fix ? { corrects: fix.reading.id, why: fix.why } : {}),
      };
    },
    send: async ({ run }, typed, at) => {
      const id = newId();
      const params = { path: { run } };
      await job.change('post', '/api/runs/{run}/readings', { params, body: { id, ...at, typed } });
      return id;
    },
  });
  const typed = computed({
    get: () => cells.text(spot.value),
    set: (text: string) => {
      cells.type(spot.value, text);
      const { run, column, fix } = spot.value;
      if (!fix) pinned.value = text ? { run, column } : undefined;
    },
  });
  watch(
    () => name(spot.value),
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

  /** Sends what nobody typed: a tap, or the timer of the program. */
  async function send(into: RunRecord, body: Sent) {
    try {
      const params = { path: { run: into.id } };
      await job.change('post', '/api/runs/{run}/readings', { params, body: { id: newId(), ...body } });
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
    const at = spot.value;
    // Nothing typed for the length: it ran as long as planned.
    if (!typed.value && cylinder.value === null && !correcting.value)
      typed.value = String(job.test.value?.setup.planned_s ?? '');
    await cells.keep(at);
    wrong.value = cells.wrong[name(at)] ?? '';
    if (!wrong.value) [correcting.value, pinned.value, chosen.value] = [null, undefined, null];
    void focus();
  }

  /** A run that was begun by a wrong tap and in which nothing was read. */
  const empty = computed(() => !correcting.value && run.value?.readings.length === 0 && !typed.value);
  /** Takes an empty run back: nothing of it is shown any more. */
  async function cancel() {
    const into = run.value;
    if (!into || !empty.value) return;
    try {
      const params = { path: { run: into.id } };
      await job.change('post', '/api/runs/{run}/aside', {
        params,
        body: { reason: begunByMistake, back: false },
      });
    } catch (error) {
      wrong.value = refusal(error).message;
    }
  }

  return {
    empty,
    cancel,
    runs,
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
      [chosen.value, pinned.value] = [to, undefined];
      void focus();
    },
    /** The bottle of a running lane is full now. */
    full: async (cylinder: number) => {
      if (!run.value || !covered.value.includes(cylinder)) return;
      const held = runs.ofCylinder(run.value, cylinder);
      const mark = job.test.value?.setup.mark_ml != null;
      if (held)
        await send(run.value, {
          kind: 'void',
          cylinder,
          typed: '',
          corrects: held.id,
          why: 'tapped_by_mistake',
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
      correcting.value = { run, reading, why: 'typing_slip' };
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
