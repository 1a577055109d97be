import { computed } from 'vue';
import { useTheme } from './useTheme';

/** Reads one of our colours as it is now, for the tokens of the control library. */
function token(key: string): string {
  return getComputedStyle(document.documentElement).getPropertyValue(key).trim();
}

/** The colours of the theme as the control library wants them. */
export function useControls() {
  const { name } = useTheme();
  return computed(() => {
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
}
