import { useLocalStorage } from '@vueuse/core';
import { computed, ref } from 'vue';
import type { SignInView } from '@/api/types';

const chosenId = useLocalStorage('bench-id', '');
const chosenName = useLocalStorage('bench-name', '');
const choosing = ref(false);
/** Who is in, as the program said last; nothing before it said anything. */
const sign = ref<SignInView>();
/** Waits for the password of whoever wants to do something that reaches beyond one job. */
const freshening = ref<(done: boolean) => void>();

/** Nobody signs in here: a name is chosen. */
const open = computed(() => sign.value?.open ?? true);
const id = computed(() => (open.value ? chosenId.value : (sign.value?.person?.id ?? '')));
const name = computed(() => (open.value ? chosenName.value : (sign.value?.person?.name ?? '')));
const out = computed(() => !!sign.value && !open.value && !sign.value.person);

/** Who is at the bench: every entry is signed with this person. */
export function useBench() {
  return {
    id,
    name,
    open,
    out,
    sign,
    choosing,
    freshening,
    choose: () => {
      choosing.value = true;
    },
    sit: (person: { id: string; name: string }) => {
      chosenId.value = person.id;
      chosenName.value = person.name;
      choosing.value = false;
    },
    took: (view: SignInView) => {
      sign.value = view;
      if (!view.open) choosing.value = false;
    },
    /** Asks for the password once more; no when the person thought better of it. */
    freshen: () =>
      new Promise<boolean>((done) => {
        freshening.value = (good) => {
          freshening.value = undefined;
          done(good);
        };
      }),
  };
}
