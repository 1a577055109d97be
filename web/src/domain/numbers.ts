/** A number as people write it: at most one decimal, none that is not needed. */
export function plain(value: number): string {
  return String(Math.round(value * 10) / 10);
}

/** A share as a signed percentage, with a true minus: `+12 %`, `−3 %`. */
export function signed(share: number): string {
  const whole = Math.round(share * 100);
  return `${whole > 0 ? '+' : whole < 0 ? '−' : ''}${Math.abs(whole)} %`;
}
