import { computed, reactive, ref, watch, type Ref } from 'vue';
import { refusal } from '@/api/client';
import type { CellReading, EngineTest } from '@/api/types';
import { newId } from '@/domain/identity';
import { useJob } from '@/job/useJob';
import { useSheetForms } from './useSheetForms';

const name = (cell: string, cylinder: number | null) => `${cell} ${cylinder ?? 'set'}`;

/** One check that is read cell by cell: every cell is kept the moment it is left. */
export function useSheet(check: Ref<EngineTest>) {
  const job = useJob();
  const forms = useSheetForms();
  const form = computed(() => forms.data.value?.find((one) => one.id === check.value));
  const sheets = computed(() => job.view.value?.file.sheets ?? []);
  const begun = ref('');
  const at = computed(() =>
    begun.value
      ? sheets.value.findIndex((one) => one.id === begun.value)
      : sheets.value.findLastIndex((one) => one.check === check.value),
  );
  const record = computed(() => sheets.value[at.value]);
  const view = computed(() => job.view.value?.sheets[at.value]);
  const verdict = computed(() => view.value?.verdict ?? undefined);
  const instrument = ref('');
  const texts = reactive<Record<string, string>>({});
  const wrong = reactive<Record<string, string>>({});

  watch(check, () => {
    begun.value = '';
    for (const key of Object.keys(wrong)) delete wrong[key];
    for (const key of Object.keys(texts)) delete texts[key];
  });

  function standing(cell: string, cylinder: number | null): CellReading | undefined {
    return record.value?.readings.findLast((one) => one.cell === cell && (one.cylinder ?? null) === cylinder);
  }

  const draft = (key: string) => `cell-${job.id.value}-${check.value}-${key}`;
  /** What stands in a cell: what was refused a moment ago, else what is kept. */
  function text(cell: string, cylinder: number | null): string {
    const key = name(cell, cylinder);
    return texts[key] ?? localStorage.getItem(draft(key)) ?? standing(cell, cylinder)?.typed ?? '';
  }
  function type(cell: string, cylinder: number | null, typed: string) {
    texts[name(cell, cylinder)] = typed;
  }

  let queue: Promise<unknown> = Promise.resolve();
  /**
   * One after the other, in the order of leaving: the order of taking is part of the reading. A cell belongs to
   * the check in which it was typed, whichever is on the screen when its turn comes.
   */
  function keep(cell: string, cylinder: number | null) {
    const key = name(cell, cylinder);
    const typed = texts[key];
    if (typed === undefined) return;
    const typedIn = { check: check.value, sheet: record.value?.id, kept: draft(key) };
    localStorage.setItem(typedIn.kept, typed);
    queue = queue.then(() => send(cell, cylinder, typed, typedIn));
  }

  async function send(
    cell: string,
    cylinder: number | null,
    typed: string,
    { check: of, sheet, kept }: { check: EngineTest; sheet?: string; kept: string },
  ) {
    const key = name(cell, cylinder);
    // The first cell of a set begins it; those typed meanwhile belong to the same.
    const into =
      sheets.value.find((one) => one.id === sheet) ?? sheets.value.findLast((one) => one.check === of);
    const held = into?.readings.findLast((one) => one.cell === cell && (one.cylinder ?? null) === cylinder);
    if ((held?.typed ?? '') !== typed.trim()) {
      try {
        await job.change('POST', `/sheets/${into?.id ?? (await begin(of))}/cells`, {
          id: newId(),
          check: of,
          cell,
          cylinder,
          typed,
          corrects: held?.id ?? null,
        });
      } catch (error) {
        const refused = refusal(error);
        if (check.value === of) wrong[key] = refused.about('typed') || refused.message;
        return;
      }
    }
    localStorage.removeItem(kept);
    if (check.value !== of) return;
    delete wrong[key];
    if (texts[key] === typed) delete texts[key];
  }

  /** A set of readings of its own: the first, or another after work was done. */
  async function begin(of: EngineTest = check.value): Promise<string> {
    const changed = await job.change('POST', `/jobs/${job.id.value}/sheets`, {
      id: newId(),
      check: of,
      instrument: instrument.value || null,
    });
    // An earlier try may have gone through under its own id.
    const made = (changed.file.sheets ?? []).findLast((one) => one.check === of)?.id ?? '';
    if (check.value === of) begun.value = made;
    return made;
  }

  /** Types and keeps at once: a choice, a tick, a value taken over. */
  function say(cell: string, cylinder: number | null, typed: string) {
    type(cell, cylinder, typed);
    keep(cell, cylinder);
  }

  /** Start conditions that are ticked, by id. */
  const ticked = computed(() =>
    (form.value?.start ?? []).map((one) => one.id).filter((id) => text(`start_${id}`, null) === '1'),
  );

  const known = computed(() => forms.data.value !== undefined);
  return {
    known,
    form,
    record,
    view,
    verdict,
    instrument,
    wrong,
    ticked,
    text,
    type,
    keep,
    say,
    begin,
    name,
  };
}
