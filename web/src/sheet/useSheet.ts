import { computed, ref, watch, type Ref } from 'vue';
import type { CellReading, EngineTest } from '@/api/types';
import { newId } from '@/domain/identity';
import { asRead } from '@/domain/units';
import { useCells } from '@/entry/useCells';
import { useJob } from '@/job/useJob';
import { useSheetForms } from './useSheetForms';
import { byHand } from '@/connections/words';

/** A cell of a check: of one cylinder, or of the set. */
export interface SheetSpot {
  cell: string;
  cylinder: number | null;
}
/** The check in which a cell was typed, and its set if there was one. */
interface TypedIn {
  check: EngineTest;
  sheet: string | undefined;
  /** Into a new set, which its first cell begins: its id from then on. */
  anew: { id?: string } | undefined;
}

/** One check that is read cell by cell: every cell is kept the moment it is left. */
export function useSheet(check: Ref<EngineTest>) {
  const job = useJob();
  const forms = useSheetForms();
  const form = computed(() => forms.data.value?.find((one) => one.id === check.value));
  const sheets = computed(() => job.view.value?.file.sheets ?? []);
  const begun = ref('');
  /** A new set was asked for and nothing is in it: it is begun by its first cell, and else leaves nothing. */
  const anew = ref<{ id?: string }>();
  const at = computed(() =>
    anew.value
      ? sheets.value.length
      : begun.value
        ? sheets.value.findIndex((one) => one.id === begun.value)
        : sheets.value.findLastIndex((one) => one.check === check.value),
  );
  const record = computed(() => sheets.value[at.value]);
  const view = computed(() => job.view.value?.sheets[at.value]);
  /** The set before this one, as it was left: shown beside an empty one, never filled in. */
  const before = computed(() => sheets.value.slice(0, at.value).findLast((one) => one.check === check.value));
  function was({ cell, cylinder }: SheetSpot): string {
    const held = before.value?.readings.findLast(
      (one) => newest.value.has(one.id) && one.cell === cell && (one.cylinder ?? null) === cylinder,
    );
    const by = cylinder == null ? form.value?.set : form.value?.each;
    return held
      ? asRead(
          held.typed,
          by?.find((one) => one.name === cell),
        )
      : '';
  }
  const verdict = computed(() => view.value?.verdict ?? undefined);
  const instrument = ref('');
  watch(check, () => ([begun.value, anew.value] = ['', undefined]));

  const newest = computed(() => new Set(job.view.value?.current.cells));
  const name = ({ cell, cylinder }: SheetSpot) => `${cell} ${cylinder ?? 'set'}`;
  function standing({ cell, cylinder }: SheetSpot, of?: TypedIn): CellReading | undefined {
    const into = of ? set(of) : record.value;
    return into?.readings.find(
      (one) => newest.value.has(one.id) && one.cell === cell && (one.cylinder ?? null) === cylinder,
    );
  }
  /** The first cell of a set begins it; those typed meanwhile belong to the same. */
  const set = ({ check: of, sheet, anew: fresh }: TypedIn) =>
    sheets.value.find((one) => one.id === (fresh ? fresh.id : sheet)) ??
    (fresh ? undefined : sheets.value.findLast((one) => one.check === of));

  const cells = useCells<SheetSpot, TypedIn>({
    scope: () => `${job.id.value}-${check.value}`,
    name,
    stands: (spot, of) => {
      const held = standing(spot, of);
      const by = forms.data.value?.find((one) => one.id === (of?.check ?? check.value));
      const cell = (held?.cylinder == null ? by?.set : by?.each)?.find((one) => one.name === spot.cell);
      return held && { id: held.id, reads: asRead(held.typed, cell) };
    },
    where: () => {
      // A set that another screen begins meanwhile does not come under the finger.
      if (!anew.value) begun.value ||= record.value?.id ?? '';
      return { check: check.value, sheet: record.value?.id, anew: anew.value };
    },
    send: async ({ cell, cylinder }, typed, of, corrects) => {
      const id = newId();
      const sheet = set(of)?.id ?? (await needed(of.check));
      if (of.anew) of.anew.id = sheet;
      const key = name({ cell, cylinder });
      const taken = shown.get(key);
      shown.delete(key);
      const body = {
        id,
        check: of.check,
        cell,
        cylinder,
        typed,
        corrects,
        shown: taken?.typed === typed ? taken.id : null,
      };
      await job.change('post', '/api/sheets/{sheet}/cells', { params: { path: { sheet } }, body });
      return id;
    },
  });

  /** Readings of instruments on their way into a cell: what is typed over them is no reading of theirs. */
  const shown = new Map<string, { typed: string; id: string }>();
  function sayShown(spot: SheetSpot, typed: string, id: string): Promise<unknown> {
    shown.set(name(spot), { typed, id });
    return cells.say(spot, typed);
  }
  /** Who read what stands in a cell, where the set has readings of instruments at all. */
  const mixed = computed(() => record.value?.readings.some((one) => one.shown_by) ?? false);
  function readBy(spot: SheetSpot): string {
    const held = mixed.value ? standing(spot) : undefined;
    if (!held || held.typed === '') return '';
    return held.shown_by?.name ?? byHand;
  }

  /** A set of readings of its own: the first, or another after work was done. */
  async function begin(of: EngineTest = check.value): Promise<string> {
    const changed = await job.change('post', '/api/jobs/{job}/sheets', {
      params: { path: { job: job.id.value } },
      body: { id: newId(), check: of, instrument: instrument.value || null },
    });
    // An earlier try may have gone through under its own id.
    const made = (changed.file.sheets ?? []).findLast((one) => one.check === of)?.id ?? '';
    if (check.value === of) [begun.value, anew.value] = [made, undefined];
    return made;
  }

  /** The set that the first entry begins: two entries at once, such as a cell and a file, begin one. */
  const beginning = new Map<EngineTest, Promise<string>>();
  function needed(of: EngineTest = check.value): Promise<string> {
    const under = beginning.get(of) ?? begin(of).finally(() => beginning.delete(of));
    beginning.set(of, under);
    return under;
  }

  /** Start conditions that are ticked, by id. */
  const ticked = computed(() =>
    (form.value?.start ?? [])
      .map((one) => one.id)
      .filter((id) => cells.text({ cell: `start_${id}`, cylinder: null }) === '1'),
  );
  const known = computed(() => forms.data.value !== undefined);
  return {
    known,
    form,
    record,
    view,
    verdict,
    instrument,
    ticked,
    cells,
    anew,
    startAnew: () => (anew.value = {}),
    cancelAnew: () => (anew.value = undefined),
    needed,
    sayShown,
    readBy,
    was,
  };
}

export type SheetHandle = ReturnType<typeof useSheet>;
