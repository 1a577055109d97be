import { useEventListener } from '@vueuse/core';
import type { Query, QueryClient } from '@tanstack/vue-query';
import { watch } from 'vue';
import { useBench } from '@/shell/useBench';
import { oldest, whoIsIn } from './client';
import type { ChangeView } from './types';

/** Lists that show something of every job or session. */
const LISTS = ['board', 'benches', 'find', 'earlier', 'passports', 'passport', 'shelf', 'shelf-families'];

/**
 * The open screen follows what is written anywhere, without asking for it again and again. A screen that nobody
 * sees listens to nothing: a browser holds few connections to one program, and each that listens takes one.
 */
export function follow(cache: QueryClient): void {
  const bench = useBench();
  let seen = 0;
  let source: EventSource | undefined;

  function told(message: MessageEvent<string>) {
    const { revision, of, made } = JSON.parse(message.data) as ChangeView;
    // The first after nobody listened, or after another start of the program.
    const missed = revision !== seen && revision !== seen + 1;
    // The first of all tells nothing new unless something was written between the first answer and it.
    const known = revision === (seen || Math.min(oldest.revision, revision));
    seen = revision;
    if (known) return;
    const concerns = ({ queryKey }: Query) => {
      const named = queryKey.some((part) => typeof part === 'string' && of.includes(part));
      const all = missed || of.length === 0;
      return all || LISTS.includes(String(queryKey[0])) || (named && !made);
    };
    void anew(concerns);
  }

  /** Asks for these anew. What was on its way already may have left before this was written: that is asked
   * for once more when it has come. */
  async function anew(predicate: (query: Query) => boolean) {
    const underway = cache.getQueryCache().findAll({ predicate, fetchStatus: 'fetching' });
    await cache.invalidateQueries({ predicate }, { cancelRefetch: false });
    if (!underway.length) return;
    const those = (query: Query) => underway.includes(query);
    await cache.invalidateQueries({ predicate: those }, { cancelRefetch: false });
  }

  function listen() {
    const wanted = document.visibilityState === 'visible' && !bench.out.value;
    if (wanted && !source) {
      source = new EventSource('/api/changes');
      source.onmessage = told;
      // Refused, not broken off: whoever was in is not any more.
      source.onerror = () => {
        if (source?.readyState !== EventSource.CLOSED) return;
        hush();
        void whoIsIn();
      };
    } else if (!wanted) {
      hush();
    }
  }
  function hush() {
    source?.close();
    source = undefined;
  }
  listen();
  // Another person hears with a session of their own, and sees nothing of the one before.
  watch([bench.id, bench.out], () => {
    hush();
    if (bench.out.value) cache.clear();
    listen();
  });
  useEventListener(document, 'visibilitychange', listen);
  useEventListener(window, 'pagehide', hush);
  useEventListener(window, 'pageshow', listen);
}
