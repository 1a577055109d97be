import { useEventListener } from '@vueuse/core';
import { ask } from '@/api/client';
import { useBench } from '@/shell/useBench';

/** How often a hand on the page is told, ms: half of what the program writes down. */
const EVERY = 60_000;

/** A session goes on while there is a hand on the page. */
export function stay(): void {
  const bench = useBench();
  let told = Date.now();
  const here = () => {
    if (bench.out.value || Date.now() - told < EVERY) return;
    told = Date.now();
    ask('post', '/api/sign-in/here').catch(() => undefined);
  };
  useEventListener(window, ['pointerdown', 'keydown'], here, { passive: true });
}
