import { inject, provide, type ComputedRef, type InjectionKey } from 'vue';

/** What every row of a strip needs to stand in the same columns. */
export interface StripShape {
  /** Cylinders, pulley end left, bank by bank. */
  banks: number[][];
  /** The column that is looked at. */
  selected: number | null;
}

const key: InjectionKey<ComputedRef<StripShape>> = Symbol('strip');

export function provideStrip(shape: ComputedRef<StripShape>): void {
  provide(key, shape);
}

export function useStrip(): ComputedRef<StripShape> {
  const shape = inject(key);
  if (!shape) throw new Error('a strip row stands outside of a strip');
  return shape;
}
