import { useQuery } from '@tanstack/vue-query';
import { computed } from 'vue';
import { ask } from '@/api/client';

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
  /** Nothing until it is known: no field claims a unit that its number is not read in. */
  const unit = (canonical: string) =>
    canonical in KIND ? (labels.value?.[KIND[canonical as keyof typeof KIND]] ?? '') : canonical;
  return { labels, unit };
}
