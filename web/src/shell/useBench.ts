import { ref } from 'vue';

const id = ref(localStorage.getItem('bench-id') ?? '');
const name = ref(localStorage.getItem('bench-name') ?? '');
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
      localStorage.setItem('bench-id', person.id);
      localStorage.setItem('bench-name', person.name);
      choosing.value = false;
    },
  };
}
