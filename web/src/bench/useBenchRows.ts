import { computed, ref, watch } from 'vue';
import type { BenchTest } from '@/api/types';
import type { SessionHandle } from './useSession';

/** The rows of the test in front, and the one that is drawn large. */
export function useBenchRows(session: SessionHandle, test: () => BenchTest) {
  const form = session.form;
  /** Rows that stand: the points of the plan, or as many as were begun and one more. */
  const added = ref(0);
  watch(test, () => (added.value = 0));
  const rows = computed(() => {
    if (!form.value) return [];
    if (form.value.by_points) {
      const order = session.view.value?.order.map((one) => one.row).filter((row) => row != null) as number[];
      return order.length ? order : (session.file.value?.setup.points ?? []).map((_, i) => i + 1);
    }
    if (!form.value.most_rows) return [];
    const begun = (session.file.value?.cells ?? [])
      .filter((one) => one.test === test() && one.round === session.round.value?.id)
      .map((one) => one.row ?? 0);
    const count = Math.min(form.value.most_rows, Math.max(...begun, 0) + 1 + added.value);
    return Array.from({ length: Math.max(count, Math.min(3, form.value.most_rows)) }, (_, i) => i + 1);
  });
  const touched = ref<number | null>(null);
  watch([test, () => session.round.value?.id], () => (touched.value = null));
  /** The row that is drawn large: the one that is typed into, else the widest apart. */
  const at = computed(() => {
    if (touched.value && rows.value.includes(touched.value)) return touched.value;
    const drawn = session.verdict.value?.rows ?? [];
    const bad = drawn.find((row) =>
      row.lanes.some((one) => ['too_much', 'too_little', 'questioned'].includes(one.mark)),
    );
    return (bad ?? drawn.at(-1))?.row ?? rows.value[0] ?? null;
  });
  const settle = computed(() => session.view.value?.order.find((one) => one.row === at.value));
  const warm = computed(() => session.view.value?.order.find((one) => one.row == null));
  return { rows, at, settle, warm, touched, more: () => (added.value += 1) };
}
