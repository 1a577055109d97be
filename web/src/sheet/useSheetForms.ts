import { useQuery } from '@tanstack/vue-query';
import { ask } from '@/api/client';
import type { SheetForm } from '@/api/types';

/** Every check that is read cell by cell, as the core describes it. */
export function useSheetForms() {
  return useQuery({
    queryKey: ['sheets'],
    queryFn: () => ask<SheetForm[]>('GET', '/sheets'),
    staleTime: Infinity,
  });
}
