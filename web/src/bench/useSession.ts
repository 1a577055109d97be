import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, inject, provide, reactive, ref, watch, type InjectionKey, type Ref } from 'vue';
import { ask, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type {
  BenchCell,
  BenchForm,
  BenchTest,
  Mark,
  RailPlace,
  Round,
  RoundStage,
  SessionView,
} from '@/api/types';
import { newId } from '@/domain/identity';
import { ROUND } from '@/words';

/** Where a cell stands. */
export interface Spot {
  cell: string;
  row: number | null;
  tag: number | null;
}

/** A tube as it is drawn: its mark, and how high it stands. */
export interface DrawnLane {
  mark: Mark;
  height: string | undefined;
}

const key = (spot: Spot) => `${spot.cell} ${spot.row ?? '-'} ${spot.tag ?? '-'}`;

/** `as received`, `cleaned 2`. */
export function roundWord(round: Round): string {
  return round.number === 1 ? ROUND[round.stage] : `${ROUND[round.stage]} ${round.number}`;
}

/** One bench session: the round and the test that are looked at, every cell kept as it is left. */
export function makeSession(id: Ref<string>, test: Ref<BenchTest>) {
  const cache = useQueryClient();
  const query = useQuery({
    queryKey: computed(() => ['bench', id.value]),
    queryFn: () => ask<SessionView>('GET', `/bench/${id.value}`),
    // A session is replaced as a whole: nothing in it is watched field by field.
    shallow: true,
    structuralSharing: false,
  });
  const view = computed(() => query.data.value);
  const file = computed(() => view.value?.file);
  const kind = computed(() => file.value?.setup.kind);
  const entry = computed(() => file.value?.setup.entry);
  const forms = useQuery({
    queryKey: computed(() => ['bench-forms', kind.value, entry.value]),
    queryFn: () => ask<BenchForm[]>('GET', `/bench/forms?kind=${kind.value}&entry=${entry.value}`),
    enabled: computed(() => kind.value !== undefined),
    staleTime: Infinity,
  });
  const form = computed(() => forms.data.value?.find((one) => one.test === test.value));
  const rounds = computed(() => file.value?.rounds ?? []);
  const chosen = ref('');
  const round = computed(() => rounds.value.find((one) => one.id === chosen.value) ?? rounds.value.at(-1));
  const judged = (of: Round | undefined, by: BenchTest) =>
    view.value?.verdicts.find((one) => one.round === of?.id && one.test === by);
  const verdict = computed(() => judged(round.value, test.value)?.verdict ?? undefined);
  const refused = computed(() => judged(round.value, test.value)?.refused ?? '');
  const tags = computed(() => (file.value?.injectors ?? []).map((one) => one.tag));
  /** The program's clock minus this browser's, ms. */

  const texts = reactive<Record<string, string>>({});
  const wrong = reactive<Record<string, string>>({});
  const forget = () => {
    for (const held of [texts, wrong]) for (const one of Object.keys(held)) delete held[one];
  };
  watch([test, () => round.value?.id], forget);

  /** The newest reading of every cell, by where it stands: looked up for each tube that is drawn. */
  const newest = computed(() => {
    const held = new Map<string, BenchCell>();
    for (const one of file.value?.cells ?? []) {
      const spot = { cell: one.cell, row: one.row ?? null, tag: one.tag ?? null };
      held.set(`${one.round} ${one.test} ${key(spot)}`, one);
    }
    return held;
  });
  function standing(spot: Spot, of = round.value, by = test.value): BenchCell | undefined {
    return newest.value.get(`${of?.id} ${by} ${key(spot)}`);
  }

  const draft = (name: string) => `bench-${round.value?.id}-${test.value}-${name}`;
  /** What was refused before a reload, read once for a round and a test. */
  const drafts = computed(() => {
    const before = draft('');
    const names = Object.keys(localStorage).filter((one) => one.startsWith(before));
    return new Map(names.map((one) => [one.slice(before.length), localStorage.getItem(one) ?? '']));
  });
  /** What stands in a cell; a mean of many is shown as such. */
  function text(spot: Spot): string {
    const name = key(spot);
    const held = standing(spot);
    const kept =
      held?.samples && held.value != null ? String(Number(held.value.toPrecision(5))) : held?.typed;
    return texts[name] ?? drafts.value.get(name) ?? kept ?? '';
  }
  function type(spot: Spot, typed: string) {
    texts[key(spot)] = typed;
  }

  async function change(path: string, body: unknown): Promise<SessionView> {
    const changed = await act<SessionView>('POST', `/bench${path}`, body);
    cache.setQueryData(['bench', id.value], changed);
    void cache.invalidateQueries({ queryKey: ['benches'] });
    return changed;
  }

  let queue: Promise<unknown> = Promise.resolve();
  function keep(spot: Spot) {
    const name = key(spot);
    const typed = texts[name];
    const at = round.value;
    if (typed === undefined || !at) return;
    localStorage.setItem(draft(name), typed);
    const by = test.value;
    queue = queue.then(() => send(spot, typed, at, by, draft(name)));
  }

  async function send(spot: Spot, typed: string, at: Round, by: BenchTest, kept: string) {
    const name = key(spot);
    const held = standing(spot, at, by);
    const same = held?.samples
      ? text(spot) === typed.trim() && texts[name] === undefined
      : held?.typed === typed.trim();
    if (!same && !(held === undefined && typed.trim() === '')) {
      try {
        await change(`/${id.value}/cells`, {
          id: newId(),
          round: at.id,
          test: by,
          ...spot,
          typed,
          corrects: held?.id ?? null,
        });
      } catch (error) {
        const refused = refusal(error);
        wrong[name] = refused.about('typed') || refused.message;
        return;
      }
    }
    delete wrong[name];
    localStorage.removeItem(kept);
    drafts.value.delete(name);
    if (texts[name] === typed) delete texts[name];
  }

  /** Types and keeps at once: a choice, a value taken over. */
  function say(spot: Spot, typed: string): Promise<unknown> {
    type(spot, typed);
    keep(spot);
    return queue;
  }

  async function begin(stage: RoundStage, places: RailPlace[] = []): Promise<string> {
    const changed = await change(`/${id.value}/rounds`, { id: newId(), stage, places });
    // An earlier try may have gone through under its own id.
    chosen.value = changed.file.rounds.at(-1)?.id ?? '';
    return chosen.value;
  }

  /** Cells of the round that the round before was told: the same again, by a tap. */
  const before = computed(() => {
    const at = rounds.value.findIndex((one) => one.id === round.value?.id);
    const cells = form.value?.set ?? [];
    const told = (of: Round) => cells.some((one) => standing({ cell: one.name, row: null, tag: null }, of));
    return rounds.value.slice(0, Math.max(at, 0)).findLast(told);
  });
  function asBefore() {
    for (const cell of form.value?.set ?? []) {
      const spot = { cell: cell.name, row: null, tag: null };
      const held = standing(spot, before.value);
      if (held?.value != null && !standing(spot)) void say(spot, held.typed);
    }
  }

  return {
    id,
    query,
    view,
    file,
    forms,
    form,
    rounds,
    round,
    chosen,
    verdict,
    refused,
    tags,
    wrong,
    judged,
    standing,
    text,
    type,
    keep,
    say,
    begin,
    change,
    before,
    asBefore,
    key,
  };
}

export type SessionHandle = ReturnType<typeof makeSession>;
const handle: InjectionKey<SessionHandle> = Symbol('bench session');
export function provideSession(session: SessionHandle): void {
  provide(handle, session);
}
export function useSession(): SessionHandle {
  const session = inject(handle);
  if (!session) throw new Error('this part needs a bench session around it');
  return session;
}
