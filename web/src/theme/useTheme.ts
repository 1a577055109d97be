import { useLocalStorage } from '@vueuse/core';
import { computed, watchEffect } from 'vue';

type Name = 'bright' | 'dim';

const name = useLocalStorage<Name>('theme', 'bright');
/** Larger text: everything is measured in it. */
const large = useLocalStorage('large-text', false);

watchEffect(() => {
  document.documentElement.dataset.theme = name.value;
  document.documentElement.classList.toggle('large', large.value);
});

/** Reads one of our colours as it is now, for the tokens of the control library. */
function token(key: string): string {
  return getComputedStyle(document.documentElement).getPropertyValue(key).trim();
}

/** The theme, and its colours as the control library wants them. */
export function useTheme() {
  const controls = computed(() => {
    void name.value;
    return {
      token: {
        colorPrimary: token('--act'),
        colorText: token('--ink'),
        colorTextBase: token('--ink'),
        colorTextDescription: token('--muted'),
        colorTextPlaceholder: token('--muted'),
        colorBgBase: token('--sheet'),
        colorBgContainer: token('--sheet'),
        colorBgElevated: token('--sheet'),
        colorBorder: token('--edge'),
        colorError: token('--too-much'),
        colorTextLightSolid: token('--act-ink'),
        fontFamily: "B612, 'DejaVu Sans', system-ui, sans-serif",
        fontSize: 16,
        controlHeight: 46,
        borderRadius: 6,
        motion: false,
      },
    };
  });
  return {
    name,
    controls,
    large,
    enlarge: () => {
      large.value = !large.value;
    },
    turn: () => {
      name.value = name.value === 'dim' ? 'bright' : 'dim';
    },
  };
}
