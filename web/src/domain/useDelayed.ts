import { onUnmounted, ref, watch, type Ref } from 'vue';

/** A value that follows another once it has been still for a moment: one question, not one a key. */
export function useDelayed<T>(source: () => T, ms = 180): Ref<T> {
  const late = ref(source()) as Ref<T>;
  let timer: ReturnType<typeof setTimeout> | undefined;
  watch(source, (now) => {
    clearTimeout(timer);
    timer = setTimeout(() => (late.value = now), ms);
  });
  onUnmounted(() => clearTimeout(timer));
  return late;
}
