import { computed, reactive, ref, watch } from 'vue';
import { refusal } from '@/api/client';
import { storedNow } from '@/entry/words';

/** How a cell is with the program: kept, or not yet. */
export type CellState = 'kept' | 'unkept' | 'refused';

/** What one kind of cells needs to know: where they belong, what stands in them, how they are sent. */
interface Asked<S, At> {
  /** What the cells belong to: drafts are kept under it, and another scope forgets what was refused. */
  scope: () => string;
  name: (spot: S) => string;
  /** The entry that stands in a cell: its id, and how it reads. */
  stands: (spot: S, at?: At) => { id: string; reads: string } | undefined;
  /** Where a cell belongs, taken when the finger comes to it: a change of the tab moves it nowhere. */
  where: () => At | undefined;
  /** Keeps it, in the place of what stood there; gives the id of the new entry. */
  send: (spot: S, typed: string, at: At, corrects: string | null) => Promise<string>;
}

/** What a finger is in: as it stood when it came, whatever another screen does meanwhile. */
interface Held<At> {
  name: string;
  was: string;
  stood: string | null;
  at: At | undefined;
}

/**
 * Cells that are kept one by one as they are left: what is typed is in this browser until the program has
 * it, and is sent in the order of leaving. A field under the finger never changes by itself; what somebody
 * else read there meanwhile is said when it is left.
 */
export function useCells<S, At>(asked: Asked<S, At>) {
  const { name, stands } = asked;
  const texts = reactive<Record<string, string>>({});
  const wrong = reactive<Record<string, string>>({});
  const held = ref<Held<At>>();
  /** What the program did not answer: it is sent again without anybody's doing. */
  const silent = reactive(new Map<string, S>());
  /** The newest entry of this screen in each cell: to correct it is no conflict. */
  const own = new Map<string, string>();
  watch(asked.scope, () => {
    for (const one of [texts, wrong]) for (const key of Object.keys(one)) delete one[key];
    held.value = undefined;
    own.clear();
    silent.clear();
  });

  const draft = (key: string) => `cell-${asked.scope()}-${key}`;
  /** Drafts of an earlier page, read once for a scope: a grid looks each of its cells up here. */
  const drafts = computed(() => {
    const before = draft('');
    const names = Object.keys(localStorage).filter((one) => one.startsWith(before));
    return reactive(new Map(names.map((one) => [one.slice(before.length), localStorage.getItem(one) ?? ''])));
  });
  /** What an earlier page left behind, unless it went through meanwhile. */
  function left(spot: S): string | undefined {
    const text = drafts.value.get(name(spot));
    return text === undefined || text.trim() === stands(spot)?.reads ? undefined : text;
  }

  function text(spot: S): string {
    const key = name(spot);
    const under = held.value?.name === key ? held.value.was : undefined;
    return texts[key] ?? under ?? left(spot) ?? stands(spot)?.reads ?? '';
  }
  function state(spot: S): CellState {
    const key = name(spot);
    if (wrong[key] && !silent.has(key)) return 'refused';
    return texts[key] === undefined && left(spot) === undefined ? 'kept' : 'unkept';
  }

  function look(spot: S): Held<At> {
    return { name: name(spot), was: text(spot), stood: stands(spot)?.id ?? null, at: asked.where() };
  }
  /** The finger comes to a field. */
  function hold(spot: S) {
    held.value = look(spot);
  }
  function type(spot: S, typed: string) {
    const key = name(spot);
    texts[key] = typed;
    // A reload loses nothing of what is half typed.
    if (typed || stands(spot)) localStorage.setItem(draft(key), typed);
    else localStorage.removeItem(draft(key));
  }

  let queue: Promise<unknown> = Promise.resolve();
  /** The finger leaves it: one after the other, since the order of taking is part of the reading. */
  function keep(spot: S): Promise<unknown> {
    const key = name(spot);
    // What an earlier page left half typed is kept once the finger was in it.
    const typed = texts[key] ?? (held.value?.name === key ? left(spot) : undefined);
    const from = held.value?.name === key ? held.value : look(spot);
    if (held.value?.name === key) held.value = undefined;
    if (typed === undefined) return queue;
    const kept = draft(key);
    queue = queue.then(() => send(spot, typed, from, kept));
    return queue;
  }

  async function send(spot: S, typed: string, { name: key, stood, at }: Held<At>, kept: string) {
    const scope = kept.slice(0, kept.length - key.length);
    const here = () => scope === draft('');
    // It belongs nowhere yet: it stays as it is typed.
    if (at === undefined) return;
    const now = stands(spot, at);
    const corrects = now && now.id === own.get(key) ? now.id : stood;
    // What stands there already, or what is emptied and was empty, is nothing to keep.
    if (typed.trim() !== (now?.reads ?? '')) {
      try {
        own.set(key, await asked.send(spot, typed, at, corrects));
      } catch (error) {
        const problem = refusal(error);
        const base = problem.about('typed') || problem.message;
        const say = () => {
          const theirs = stands(spot, at);
          const meanwhile = theirs && theirs.id !== corrects ? storedNow(theirs.reads || 'nothing') : '';
          wrong[key] = base + meanwhile;
          return !!meanwhile;
        };
        if (here()) {
          // What somebody else read may come to this page a moment after the refusal.
          if (!say() && problem.status === 409) {
            const stop = watch(
              () => stands(spot, at)?.id,
              () => {
                stop();
                if (wrong[key] === base) say();
              },
            );
          }
          if (!problem.status) silent.set(key, spot as never);
        }
        return;
      }
    }
    localStorage.removeItem(kept);
    if (!here()) return;
    drafts.value.delete(key);
    silent.delete(key);
    delete wrong[key];
    if (texts[key] === typed) delete texts[key];
  }
  // What was sent again went through after all.
  watch(
    () => [...silent].filter(([key, spot]) => stands(spot as S)?.reads === texts[key]?.trim()),
    (through) => {
      for (const [key] of through) {
        silent.delete(key);
        localStorage.removeItem(draft(key));
        delete wrong[key];
        delete texts[key];
      }
    },
  );

  /** Types and keeps at once: a choice, a tick, a value taken over. */
  function say(spot: S, typed: string): Promise<unknown> {
    type(spot, typed);
    return keep(spot);
  }

  return { text, state, hold, type, keep, say, wrong, name };
}

export type Cells<S> = Pick<
  ReturnType<typeof useCells<S, unknown>>,
  'text' | 'state' | 'hold' | 'type' | 'keep' | 'say' | 'wrong' | 'name'
>;
