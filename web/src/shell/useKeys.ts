import { onUnmounted, reactive } from 'vue';

/** A key that does something now, and the word for it in the key help. */
export interface Key {
  key: string;
  word: string;
  run: (event: KeyboardEvent) => void;
  /** Also while a text field has the focus. */
  always?: boolean;
}

const active = reactive<{ keys: Key[] }[]>([]);

function typing(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement;
  return target.matches('input, textarea, select, [contenteditable]');
}

window.addEventListener('keydown', (event) => {
  if (event.altKey || event.repeat) return;
  const name = (event.ctrlKey || event.metaKey ? 'Ctrl+' : '') + event.key;
  const onButton = (event.target as HTMLElement).matches('button, a, summary, [role=radio]');
  // The newest view wins; a dialog is newer than the page under it.
  for (const group of [...active].reverse()) {
    const hit = group.keys.find((key) => key.key.toLowerCase() === name.toLowerCase());
    if (!hit || (typing(event) && !hit.always)) continue;
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
