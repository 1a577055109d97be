import { computed, ref } from 'vue';
import type { SheetRecord, Trace } from '@/api/types';

/** A trace as it is drawn, its drops, and where a person moved their ends to. */
export function useTrace(record: () => SheetRecord | undefined) {
  const trace = computed<Trace | undefined>(() => record()?.traces?.at(-1));
  const W = 1000;
  const H = 240;
  const span = computed(() => {
    const points = trace.value?.points ?? [];
    const [t0, t1] = [points[0]?.[0] ?? 0, points.at(-1)?.[0] ?? 1];
    const top = Math.max(...points.map((p) => p[1]!), 1) * 1.05;
    return { t0, t1, top };
  });
  const x = (t: number) => ((t - span.value.t0) / (span.value.t1 - span.value.t0 || 1)) * W;
  const y = (p: number) => H - (p / span.value.top) * H;
  const line = computed(() =>
    (trace.value?.points ?? []).map((p) => `${x(p[0]!).toFixed(1)},${y(p[1]!).toFixed(1)}`).join(' '),
  );
  /** Corrections made here, by drop and end. */
  const moved = ref<Record<string, [number, number]>>({});
  const held = ref<string | null>(null);
  const drops = computed(() =>
    (trace.value?.drops ?? []).map((drop, i) => ({
      cylinder: trace.value!.order[i],
      start: moved.value[`${i}-start`] ?? [drop.start_s, drop.start_kpa],
      end: moved.value[`${i}-end`] ?? [drop.end_s, drop.end_kpa],
    })),
  );
  function place(event: MouseEvent) {
    if (!held.value || !trace.value) return;
    const box = (event.currentTarget as SVGElement).getBoundingClientRect();
    const t = span.value.t0 + ((event.clientX - box.left) / box.width) * (span.value.t1 - span.value.t0);
    const near = trace.value.points.reduce((best, p) =>
      Math.abs(p[0]! - t) < Math.abs(best[0]! - t) ? p : best,
    );
    moved.value[held.value] = [near[0]!, near[1]!];
    held.value = null;
  }
  return { W, H, trace, x, y, line, drops, held, moved, place };
}
