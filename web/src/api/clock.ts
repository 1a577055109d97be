import { ref } from 'vue';

/** The program's clock minus this browser's, ms: an answer from the browser's own store is older than it looks. */
export const ahead = ref(0);

/** Takes the clock of the program from an answer. */
export function setClock(headers: Headers): void {
  const told = Number(headers.get('x-clock'));
  if (told > 0) ahead.value = told - Date.now();
}
