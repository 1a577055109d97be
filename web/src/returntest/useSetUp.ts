import { useQuery } from '@tanstack/vue-query';
import { computed, nextTick, reactive, ref, watch, type Ref } from 'vue';
import { ask, refusal, type Refusal } from '@/api/client';
import type { Regime } from '@/api/types';
import { newId } from '@/domain/identity';
import { withUnit } from '@/domain/units';
import { useJob } from '@/job/useJob';
import { usePreview } from './usePreview';

/** What is typed to set a return test up, begun from the last one. */
export function useSetUp(byHouse: Ref<boolean>, done: () => void) {
  const job = useJob();
  const last = job.test.value?.setup;
  const text = (value: number | null | undefined, otherwise = '') =>
    value == null ? otherwise : String(value);
  const form = reactive({
    id: newId(),
    regime: (last?.regime ?? 'idle_only') as Regime,
    capacity: text(last?.capacity_ml, '100'),
    graduation: text(last?.graduation_ml, '2'),
    planned: text(last?.planned_s, '2:00'),
    temperature: '',
    speed: text(last?.speed_rpm),
    bottles: '',
    timer: '',
    mark: text(last?.mark_ml),
    level_line: '',
    pump_spare: withUnit(last?.pump_spare_ml_min, 'ml/min'),
  });
  const MORE = [
    { name: 'mark', word: 'Time bottles to', unit: 'ml' },
    { name: 'level_line', word: 'Level line', unit: 'ml' },
  ] as const;
  const SPARE = { name: 'pump_spare', word: 'Spare pump capacity', unit: 'ml/min' } as const;
  const more = ref(!!form.mark);
  const extra = computed(() => [...(form.regime === 'cranking' ? [SPARE] : []), ...(more.value ? MORE : [])]);
  const instruments = useQuery({
    queryKey: ['instruments'],
    queryFn: () => ask('get', '/api/instruments'),
  });
  const of = (...kinds: string[]) =>
    computed(() => (instruments.data.value ?? []).filter((one) => kinds.includes(one.instrument.kind)));
  const bottles = of('bottles', 'bench');
  const timers = of('timer');
  // The bottles of the last test are likely those of the next one.
  watch(
    bottles,
    (all) => {
      const used = (last?.instruments ?? []).map((one) => one.id);
      form.bottles ||= all.find((one) => used.includes(one.instrument.id))?.instrument.id ?? '';
    },
    { immediate: true },
  );
  // The marks of chosen bottles are theirs.
  watch(
    () => form.bottles,
    (id) => {
      const chosen = bottles.value.find((one) => one.instrument.id === id)?.instrument;
      if (!chosen) return;
      form.graduation = String(chosen.resolution);
      form.capacity = String(chosen.capacity_ml ?? form.capacity);
    },
  );
  const body = () => ({
    ...form,
    bottles: form.bottles || null,
    timer: form.timer || null,
    by_house_reference: byHouse.value,
  });
  const preview = usePreview(job.id, body);
  const fields = [
    { name: 'capacity', word: 'Bottle holds', unit: 'ml' },
    { name: 'graduation', word: 'Marks every', unit: 'ml' },
    { name: 'planned', word: 'Length of run', unit: 'min:s' },
    { name: 'temperature', word: 'Engine temperature', unit: '°C' },
    { name: 'speed', word: 'Engine speed', unit: 'rpm' },
  ] as const;
  const wrong = ref<Refusal>();
  async function setUp() {
    // Whoever is quicker than the list of bottles still gets those of the last test.
    if (!instruments.isFetched.value) await instruments.suspense().then(() => nextTick());
    try {
      await job.change('post', '/api/jobs/{job}/return-tests', {
        params: { path: { job: job.id.value } },
        body: body(),
      });
      done();
    } catch (error) {
      wrong.value = refusal(error);
    }
  }
  return { job, form, more, extra, bottles, timers, preview, fields, wrong, setUp };
}
