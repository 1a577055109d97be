import { computed, watch } from 'vue';
import { sayHeadline } from '@/shell/useHeadline';
import { BENCH } from '@/words';
import type { SessionHandle } from './useSession';

/** The headline of a session, and the word over each injector of its rail. */
export function useRailWords(session: SessionHandle) {
  watch(
    session.file,
    (file) => {
      if (!file) return;
      const jobs = [...new Set(file.injectors.map((one) => one.job_number))];
      sayHeadline(
        `${BENCH[file.setup.kind]}, session ${file.number}`,
        [
          `${file.injectors.length === 1 ? 'one injector' : `${file.injectors.length} injectors`} of job ${jobs.join(' and ')}`,
          file.setup.bench?.name,
        ]
          .filter(Boolean)
          .join(', '),
      );
    },
    { immediate: true },
  );

  const injectors = computed(() => session.file.value?.injectors ?? []);
  const several = computed(() => new Set(injectors.value.map((one) => one.job)).size > 1);
  /** Where each hangs in this round, and whose it is. */
  const labels = computed(() =>
    Object.fromEntries(
      injectors.value.map((one) => {
        const place = session.round.value?.places.find((held) => held.tag === one.tag);
        const hangs = place && place.position !== one.tag ? `, at ${place.position}` : '';
        const whose = several.value ? ` ${one.job_number}` : '';
        return [one.tag, `${one.label || `${one.job_number}·${one.cylinder}`}${whose}${hangs}`];
      }),
    ),
  );
  return labels;
}
