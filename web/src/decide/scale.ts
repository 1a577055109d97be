/** Where a likelihood stands on the scale of belief: odds, each step ten times the one before. */
export function place(p: number): number {
  const odds = Math.log10(p / (1 - p));
  return Math.min(1, Math.max(0, (odds + 2.5) / 5));
}

/** `70 % `, `under 1 %`: no more figures than the weights have. */
export function likely(p: number): string {
  if (p < 0.01) return 'under 1 %';
  if (p > 0.99) return 'over 99 %';
  return `${Math.round(p * 100)} %`;
}

/** `×70`, `÷12`: how strongly something speaks for or against. */
export function weight(factor: number): string {
  const of = factor >= 1 ? factor : 1 / factor;
  return `${factor >= 1 ? '×' : '÷'}${of >= 10 ? Math.round(of) : Number(of.toPrecision(2))}`;
}
