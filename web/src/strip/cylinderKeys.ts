import type { Key } from '@/shell/useKeys';

/** The upper row of a keyboard, left to right: twelve keys for the most cylinders that a job has. */
const ROW = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '0', '-', '='];

/** A key for each cylinder, the same in every view of a strip. */
export function cylinderKeys(
  count: number,
  run: (cylinder: number) => void,
  word: (cylinder: number) => string = (cylinder) => `cylinder ${cylinder}`,
): Key[] {
  return ROW.slice(0, count).map((key, i) => ({ key, word: word(i + 1), run: () => run(i + 1) }));
}
