import { useLocalStorage } from '@vueuse/core';
import { watchEffect } from 'vue';

type Name = 'bright' | 'dim';

const name = useLocalStorage<Name>('theme', 'bright');
/** Larger text: everything is measured in it. */
const large = useLocalStorage('large-text', false);

watchEffect(() => {
  document.documentElement.dataset.theme = name.value;
  document.documentElement.classList.toggle('large', large.value);
});

/** The theme, and how it is changed. */
export function useTheme() {
  return {
    name,
    large,
    enlarge: () => {
      large.value = !large.value;
    },
    turn: () => {
      name.value = name.value === 'dim' ? 'bright' : 'dim';
    },
  };
}
