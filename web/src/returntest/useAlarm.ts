import { useIntervalFn } from '@vueuse/core';
import { watch, type Ref } from 'vue';
import { ring } from './ring';

/** How often an alarm that nobody acknowledged rings again, and for how long, ms. */
const EVERY = 8_000;
const LONG = 10 * 60_000;

/**
 * Rings when another timer runs out, and again until it is acknowledged (its timer taken off, its run
 * stopped), for ten minutes. What was over before the page came does not begin to ring by itself.
 */
export function useAlarm(over: Ref<number>): void {
  let since = 0;
  const again = useIntervalFn(
    () => {
      if (over.value && Date.now() - since < LONG) ring();
      else again.pause();
    },
    EVERY,
    { immediate: false },
  );
  watch(over, (now, before) => {
    if (now > before) {
      since = Date.now();
      ring();
      again.resume();
    } else if (!now) again.pause();
  });
}
