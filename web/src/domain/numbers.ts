/** A number as people write it: at most one decimal, none that is not needed. */
export function plain(value: number): string {
  return String(Math.round(value * 10) / 10);
}
