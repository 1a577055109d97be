import { useEventListener } from '@vueuse/core';
import { onUnmounted, reactive } from 'vue';

/** A key that does something now, and the word for it in the key help. */
export interface Key {
  key: string;
  word: string;
  run: (event: KeyboardEvent) => void;
  /** Also while a text field has the focus. */
  always?: boolean;
  /** Also in this text field, as it is: a letter that can be typed there does nothing else. */
  within?: (field: HTMLInputElement) => boolean;
}

const active = reactive<{ keys: Key[] }[]>([]);

/** The key is text here, unless it says that it works in this very field. */
function typing(event: KeyboardEvent, key: Key): boolean {
  const target = event.target as HTMLElement;
  if (!target.matches('input, textarea, select, [contenteditable]')) return false;
  return !(key.within && target instanceof HTMLInputElement && key.within(target));
}

useEventListener(window, 'keydown', (event) => {
  if (event.altKey || event.repeat) return;
  const name = (event.ctrlKey || event.metaKey ? 'Ctrl+' : '') + event.key;
  const onButton = (event.target as HTMLElement).matches('button, a, summary, [role=radio]');
  // The newest view wins; a dialog is newer than the page under it.
  for (const group of [...active].reverse()) {
    const hit = group.keys.find((key) => key.key.toLowerCase() === name.toLowerCase());
    if (!hit || (!hit.always && typing(event, hit))) continue;
    if (onButton && (name === ' ' || name === 'Enter')) return;
    event.preventDefault();
    hit.run(event);
    return;
  }
});

/** Keys of a component, for as long as it lives. Give a getter where they change. */
export function useKeys(keys: Key[]): void {
  const group = { keys };
  active.push(group);
  onUnmounted(() => {
    const at = active.findIndex((one) => one.keys === group.keys);
    if (at >= 0) active.splice(at, 1);
  });
}

/** Everything that a key does at this moment, newest first. */
export function activeKeys(): Key[] {
  return [...active].reverse().flatMap((group) => group.keys);
}
