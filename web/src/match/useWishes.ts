import { computed, ref, watch, type Ref } from 'vue';

interface Wishes {
  out: string[];
  in: string[];
  together: string[][];
}

/** What this browser holds; nothing where it cannot be read. */
function held(key: string): Wishes {
  try {
    const read = JSON.parse(localStorage.getItem(key) ?? '{}') as Partial<Wishes>;
    return { out: read.out ?? [], in: read.in ?? [], together: read.together ?? [] };
  } catch {
    return { out: [], in: [], together: [] };
  }
}

/** What was said about single injectors of a family: left out, used all the same, kept together.
 *  Held by this browser, so that a wrong tap and a reload lose nothing. */
export function useWishes(family: Ref<string | undefined>) {
  const key = computed(() => `match:${family.value ?? ''}`);
  const wishes = ref<Wishes>({ out: [], in: [], together: [] });
  watch(
    key,
    (key) => {
      wishes.value = held(key);
    },
    { immediate: true },
  );
  watch(wishes, (now) => localStorage.setItem(key.value, JSON.stringify(now)), { deep: true });

  const flip = (list: string[], id: string) =>
    list.includes(id) ? list.filter((held) => held !== id) : [...list, id];
  /** Leaves one out or takes it in again; one that is held back is used all the same, or not. */
  function use(id: string, heldBack: boolean) {
    if (heldBack) wishes.value.in = flip(wishes.value.in, id);
    else wishes.value.out = flip(wishes.value.out, id);
  }
  const used = (id: string, heldBack: boolean) =>
    heldBack ? wishes.value.in.includes(id) : !wishes.value.out.includes(id);
  function bind(ids: string[]) {
    const rest = wishes.value.together.map((group) => group.filter((id) => !ids.includes(id)));
    wishes.value.together = [...rest.filter((group) => group.length > 1), ids];
  }
  const loose = (group: number) =>
    (wishes.value.together = wishes.value.together.filter((_, i) => i !== group));
  const group = (id: string) => wishes.value.together.findIndex((group) => group.includes(id));
  return { wishes, use, used, bind, loose, group };
}
