import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { ask, refusal } from '@/api/client';
import { newId } from '@/domain/identity';
import { withUnit } from '@/domain/units';
import type { JobHandle } from '@/job/useJob';

/** The same test again after injectors moved: bottles, conditions and line as before, one press. */
export function useRepeat(job: JobHandle) {
  const router = useRouter();
  const wrong = ref('');
  const due = computed(() => !!job.view.value?.current.next_run?.again);
  async function prepare() {
    const last = job.test.value!.setup;
    const text = (value: number | null | undefined) => (value == null ? '' : String(value));
    // A line that was typed has no revision of the library: it is typed again, over the same time.
    const { limit } = last;
    const line = limit?.revision === 0 ? (limit.upper_ml_min * last.planned_s) / 60 : null;
    try {
      const listed = await ask('get', '/api/instruments');
      const used = listed.filter((one) => last.instruments?.some((held) => held.id === one.instrument.id));
      const ofKind = (...kinds: string[]) =>
        used.find((one) => kinds.includes(one.instrument.kind))?.instrument.id ?? null;
      await job.change('post', '/api/jobs/{job}/return-tests', {
        params: { path: { job: job.id.value } },
        body: {
          id: newId(),
          regime: last.regime,
          capacity: text(last.capacity_ml),
          graduation: text(last.graduation_ml),
          planned: text(last.planned_s),
          temperature: withUnit(last.temperature_c, '°C'),
          speed: text(last.speed_rpm),
          mark: text(last.mark_ml),
          level_line: text(line),
          pump_spare: withUnit(last.pump_spare_ml_min, 'ml/min'),
          bottles: ofKind('bottles', 'bench'),
          timer: ofKind('timer'),
          by_house_reference: false,
        },
      });
      wrong.value = '';
      await router.push(`/jobs/${job.id.value}/on-engine`);
    } catch (error) {
      wrong.value = refusal(error).message;
    }
  }
  return { due, prepare, wrong };
}
