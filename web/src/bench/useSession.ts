import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, inject, provide, ref, type InjectionKey, type Ref } from 'vue';
import { ask } from '@/api/client';
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
  TubeView,
} from '@/api/types';
import { newId } from '@/domain/identity';
import { asRead } from '@/domain/units';
import { useCells } from '@/entry/useCells';
import { ROUND } from '@/words';

/** Where a cell stands. */
export interface Spot {
  cell: string;
  row: number | null;
  tag: number | null;
}

/** The round and the test in which a cell was typed. */
interface TypedAt {
  round: Round;
  test: BenchTest;
}

/** A tube as it is drawn: its mark, and how high it stands. */
export interface DrawnLane {
  mark: Mark;
  height: string | undefined;
  /** What it comes to in the unit that is compared, where that is not the one that is typed. */
  says: string;
}

const key = (spot: Spot) => `${spot.cell} ${spot.row ?? '-'} ${spot.tag ?? '-'}`;

/** What stands in a cell; a mean of many is shown as such. */
function reads(held: BenchCell, forms: readonly BenchForm[] | undefined): string {
  const form = forms?.find((one) => one.test === held.test);
  const of = held.tag == null ? (held.row == null ? form?.set : form?.row) : form?.each;
  const text = held.samples && held.value != null ? String(Number(held.value.toPrecision(5))) : held.typed;
  return asRead(
    text,
    of?.find((one) => one.name === held.cell),
  );
}

/** `as received`, `cleaned 2`. */
export function roundWord(round: Round): string {
  return round.number === 1 ? ROUND[round.stage] : `${ROUND[round.stage]} ${round.number}`;
}

/** One bench session: the round and the test that are looked at, every cell kept as it is left. */
export function makeSession(id: Ref<string>, test: Ref<BenchTest>) {
  const cache = useQueryClient();
  const query = useQuery({
    queryKey: computed(() => ['bench', id.value]),
    queryFn: () => ask('get', '/api/bench/{session}', { params: { path: { session: id.value } } }),
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
    queryFn: () =>
      ask('get', '/api/bench/forms', { params: { query: { kind: kind.value!, entry: entry.value! } } }),
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

  /** The newest reading of every cell, by where it stands: looked up for each tube that is drawn. */
  const newest = computed(() => {
    const held = new Map<string, BenchCell>();
    const stand = new Set(view.value?.newest);
    for (const one of file.value?.cells ?? []) {
      if (!stand.has(one.id)) continue;
      const spot = { cell: one.cell, row: one.row ?? null, tag: one.tag ?? null };
      held.set(`${one.round} ${one.test} ${key(spot)}`, one);
    }
    return held;
  });
  function standing(spot: Spot, of = round.value, by = test.value): BenchCell | undefined {
    return newest.value.get(`${of?.id} ${by} ${key(spot)}`);
  }

  const cells = useCells<Spot, TypedAt>({
    scope: () => `${round.value?.id}-${test.value}`,
    name: key,
    stands: (spot, at) => {
      const held = at ? standing(spot, at.round, at.test) : standing(spot);
      return held && { id: held.id, reads: reads(held, forms.data.value) };
    },
    where: () => {
      if (!round.value) return undefined;
      // A round that another screen begins meanwhile does not come under the finger.
      chosen.value ||= round.value.id;
      return { round: round.value, test: test.value };
    },
    send: async (spot, typed, at, corrects) => {
      const by = taken.get(key(spot));
      taken.delete(key(spot));
      const from = by?.typed === typed ? by.id : null;
      const cell = {
        id: newId(),
        round: at.round.id,
        test: at.test,
        ...spot,
        typed,
        corrects,
        shown: from,
      };
      kept(await act('post', '/api/bench/{session}/cells', { ...params(), body: cell }));
      return cell.id;
    },
  });

  /** Readings of instruments on their way into a cell: what is typed over them is no reading of theirs. */
  const taken = new Map<string, { typed: string; id: string }>();
  function sayShown(spot: Spot, typed: string, from: string): Promise<unknown> {
    taken.set(key(spot), { typed, id: from });
    return cells.say(spot, typed);
  }

  const params = () => ({ params: { path: { session: id.value } } });
  function shown(changed: SessionView): SessionView {
    cache.setQueryData(['bench', id.value], changed);
    void cache.invalidateQueries({ queryKey: ['benches'] });
    return changed;
  }

  /** One reading more: the session is brought along, and not fetched again for it. */
  function kept(one: TubeView) {
    cache.setQueryData<SessionView>(['bench', id.value], (before) => {
      if (!before) return before;
      const held = before.file.cells.some((cell) => cell.id === one.cell.id);
      const from = before.file.rounds.findIndex((round) => round.id === one.cell.round);
      const later = before.file.rounds.slice(from).map((round) => round.id);
      return {
        ...before,
        file: held ? before.file : { ...before.file, cells: [...before.file.cells, one.cell] },
        newest: [
          ...before.newest.filter((of) => of !== one.cell.corrects && of !== one.cell.id),
          one.cell.id,
        ],
        verdicts: [...before.verdicts.filter((of) => !later.includes(of.round)), ...one.verdicts],
        drive_refused: one.drive_refused,
        stock: one.stock,
      };
    });
    void cache.invalidateQueries({ queryKey: ['benches'] });
  }

  async function begin(stage: RoundStage, places: RailPlace[] = []): Promise<string> {
    const body = { id: newId(), stage, places };
    const changed = shown(await act('post', '/api/bench/{session}/rounds', { ...params(), body }));
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
      if (held?.value != null && !standing(spot)) void cells.say(spot, reads(held, forms.data.value));
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
    judged,
    standing,
    cells,
    begin,
    shown,
    sayShown,
    before,
    asBefore,
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
