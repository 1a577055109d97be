import { refDebounced } from '@vueuse/core';
import { computed, type Ref } from 'vue';

/** A value that follows another once it has been still for a moment: one question, not one a key. */
export function useDelayed<T>(source: () => T, ms = 180): Readonly<Ref<T>> {
  return refDebounced(computed(source), ms);
}
