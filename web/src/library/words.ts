/** What this part says in sentences. */
export const tighteningSuch = (unit: string) => `Tightening, ${unit} and °, such as 8; 12; 90°`;
/** Columns of a limits file, as they are chosen. */
export const LIMIT_COLUMN: Record<string, string> = {
  family: 'injector family',
  kind: 'kind of injector',
  check: 'check',
  condition: 'condition, in words',
  lower: 'minimum',
  upper: 'maximum',
  from_c: 'valid from, °C',
  to_c: 'valid to, °C',
  from_kpa: 'pressure from, kPa',
  to_kpa: 'pressure to, kPa',
  source: 'source',
  dated: 'date of the source',
};
