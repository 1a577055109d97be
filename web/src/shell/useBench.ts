import { useLocalStorage } from '@vueuse/core';
import { ref } from 'vue';

const id = useLocalStorage('bench-id', '');
const name = useLocalStorage('bench-name', '');
const choosing = ref(false);

/** Who is at the bench: every entry is signed with this person. */
export function useBench() {
  return {
    id,
    name,
    choosing,
    choose: () => {
      choosing.value = true;
    },
    sit: (person: { id: string; name: string }) => {
      id.value = person.id;
      name.value = person.name;
      choosing.value = false;
    },
  };
}
