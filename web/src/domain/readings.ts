import type { Reading } from '@/api/types';

/** What a reading says in a cell: a level, or when a bottle was full or reached its mark. */
export function said(reading: Reading): string {
  const value = String(Math.round(reading.value * 10) / 10);
  if (reading.kind === 'overflow') return `full ${value} s`;
  if (reading.kind === 'mark') return `${reading.mark_ml} ml in ${value} s`;
  return value;
}
