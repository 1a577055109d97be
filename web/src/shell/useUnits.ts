import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, watch } from 'vue';
import { ask, beside } from '@/api/client';

const KIND = {
  kPa: 'pressure',
  'N·m': 'torque',
  '°C': 'temperature',
  'ml/min': 'flow',
  km: 'distance',
} as const;

/** The unit that stands beside a field: the workshop's own for each kind that it chose one of. */
export function useUnits() {
  const { data } = useQuery({ queryKey: ['profile'], queryFn: () => ask('get', '/api/profile') });
  const labels = computed(() => data.value?.labels);
  const cache = useQueryClient();
  watch(
    () => labels.value?.sign ?? '',
    (sign) => {
      if (!sign || sign === beside.units) return;
      const before = beside.units;
      beside.units = sign;
      // Everything that was said or asked for in other units is asked for anew.
      if (before) void cache.invalidateQueries();
    },
    { immediate: true },
  );
  /** Nothing until it is known: no field claims a unit that its number is not read in. */
  const unit = (canonical: string) =>
    canonical in KIND ? (labels.value?.[KIND[canonical as keyof typeof KIND]] ?? '') : canonical;
  return { labels, unit };
}
