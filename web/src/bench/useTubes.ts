import { nextTick, ref, type Ref } from 'vue';

const DOWN = 'bench-down';

/** The order in which tubes are typed: down a column, or across a row, as was chosen. */
export function useTubes(root: Ref<HTMLElement | undefined>) {
  const down = ref(localStorage.getItem(DOWN) === '1');
  const last = ref<HTMLInputElement>();
  let fresh: HTMLInputElement | undefined;

  function turn() {
    down.value = !down.value;
    localStorage.setItem(DOWN, down.value ? '1' : '0');
  }
  /** Cells as they follow each other; those of the round and of rows come before the tubes. */
  function order(): HTMLElement[] {
    const cells = [...(root.value?.querySelectorAll<HTMLElement>('[data-cell]') ?? [])];
    const place = (cell: HTMLElement) => {
      const [row, tag] = [Number(cell.dataset.row ?? 0), Number(cell.dataset.tag ?? -1)];
      return down.value && cell.dataset.row ? [tag, row] : [row, tag];
    };
    return cells
      .filter((cell) => cell.checkVisibility())
      .map((cell, i) => ({ cell, at: place(cell), i }))
      .sort(
        (a, b) =>
          Number(!!a.cell.dataset.tag) - Number(!!b.cell.dataset.tag) ||
          a.at[0]! - b.at[0]! ||
          a.at[1]! - b.at[1]! ||
          a.i - b.i,
      )
      .map((one) => one.cell);
  }
  function next(event?: KeyboardEvent) {
    const cells = order();
    const from = (event?.target as HTMLElement | undefined) ?? last.value;
    const to = cells[from ? cells.indexOf(from) + 1 : 0];
    if (to) to.focus();
    else from?.blur();
  }
  function focused(event: FocusEvent) {
    const target = event.target as HTMLElement;
    if (!(target instanceof HTMLInputElement) || !target.matches('[data-cell]')) return;
    last.value = target;
    // What stands there is typed over: a tube read again needs no deleting.
    target.select();
    fresh = target;
  }
  /** The click that gave the focus would set the caret; it selects instead. */
  function clicked(event: MouseEvent) {
    if (event.target === fresh) fresh?.select();
    fresh = undefined;
  }
  /** What the pad types goes the same way as a key stroke. */
  function write(text: (held: string) => string) {
    const input = last.value;
    if (!input?.isConnected) return next();
    input.value = text(input.value);
    input.dispatchEvent(new Event('input', { bubbles: true }));
    void nextTick(() => input.focus());
  }
  return {
    down,
    turn,
    next,
    focused,
    clicked,
    press: (key: string) =>
      write((held) => {
        const input = last.value;
        const over = input && held && input.selectionStart === 0 && input.selectionEnd === held.length;
        return over ? key : held + key;
      }),
    back: () => write((held) => held.slice(0, -1)),
  };
}

export type Tubes = ReturnType<typeof useTubes>;
