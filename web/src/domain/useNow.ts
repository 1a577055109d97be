import { onUnmounted, ref } from 'vue';

/** The time, four times a second, for as long as the component lives. */
export function useNow() {
  const now = ref(Date.now());
  const ticking = setInterval(() => (now.value = Date.now()), 250);
  onUnmounted(() => clearInterval(ticking));
  return now;
}
