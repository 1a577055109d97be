import { useEventListener } from '@vueuse/core';
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue';
import { ahead } from '@/api/clock';
import type { LiveView, Quantity } from '@/api/types';
import { useNow } from '@/domain/useNow';
import { lostFor, streamRefused, wasLost } from './words';

/** At most so often is anything drawn anew, ms. */
const FRAME = 1000 / 30;
/** A refused stream is asked for again after this, ms. */
const AGAIN = 2000;

/**
 * What an instrument shows, as it shows it: the newest at most thirty times a second for what is drawn, every
 * one for whoever wants all. A screen that nobody sees listens to nothing.
 */
export function useLive(
  connection: () => string | undefined,
  more: { quantity?: Quantity; each?: (look: LiveView) => void } = {},
) {
  const look = shallowRef<LiveView>();
  /** Since when this screen hears nothing, ms; none while it hears. */
  const lost = ref<number>();
  const refused = ref(false);
  /** The last time without connection, as it is said. */
  const missed = ref('');
  const now = useNow();
  let source: EventSource | undefined;
  let newest: LiveView | undefined;
  let drawn = 0;
  let frame: ReturnType<typeof setTimeout> | undefined;
  let again: ReturnType<typeof setTimeout> | undefined;
  let seen = 0;

  function draw() {
    frame = undefined;
    drawn = performance.now();
    look.value = newest;
  }
  function told(message: MessageEvent<string>) {
    const came = JSON.parse(message.data) as LiveView;
    if (lost.value !== undefined) {
      const seconds = Math.round((Date.now() - lost.value) / 1000);
      if (seconds > 0) missed.value = wasLost(seconds);
      lost.value = undefined;
    }
    seen = Date.now();
    newest = came;
    more.each?.(came);
    // No frame is asked for in which nothing is new.
    frame ??= setTimeout(draw, Math.max(0, drawn + FRAME - performance.now()));
  }
  function hush() {
    source?.close();
    source = undefined;
    clearTimeout(again);
  }
  function listen() {
    hush();
    const id = connection();
    if (!id || document.visibilityState !== 'visible') return;
    const asked = more.quantity ? `?quantity=${more.quantity}` : '';
    source = new EventSource(`/api/connections/${id}/live${asked}`);
    source.onmessage = told;
    source.onopen = () => (refused.value = false);
    source.onerror = () => {
      lost.value ??= seen || Date.now();
      if (source?.readyState !== EventSource.CLOSED) return;
      refused.value = true;
      again = setTimeout(listen, AGAIN);
    };
  }
  watch(
    connection,
    () => {
      [look.value, newest, lost.value, missed.value, seen] = [undefined, undefined, undefined, '', 0];
      listen();
    },
    { immediate: true },
  );
  useEventListener(document, 'visibilitychange', () => {
    if (document.visibilityState === 'visible') listen();
    else {
      lost.value ??= Date.now();
      hush();
    }
  });
  onScopeDispose(() => {
    hush();
    clearTimeout(frame);
  });

  const age = computed(() =>
    look.value ? Math.max(0, (now.value + ahead.value - look.value.at_ms) / 1000) : undefined,
  );
  /** What stands against a reading now, in words; empty while it shows one. */
  const wrong = computed(() => {
    if (refused.value) return streamRefused;
    if (lost.value !== undefined) {
      const seconds = Math.round((now.value - lost.value) / 1000);
      if (seconds > 1) return lostFor(seconds);
    }
    return look.value?.silent ?? '';
  });
  const heard = computed(() => look.value !== undefined);
  return { look, heard, age, wrong, missed };
}

export type LiveHandle = ReturnType<typeof useLive>;
