import { ref, watch, type Ref } from 'vue';

/** Text that is kept in this browser until it was accepted: a reload or a refusal loses nothing. */
export function useDraft(key: Ref<string>): Ref<string> {
  const text = ref('');
  watch(
    key,
    (key) => {
      text.value = localStorage.getItem(`draft-${key}`) ?? '';
    },
    { immediate: true },
  );
  watch(text, (text) => {
    if (text) localStorage.setItem(`draft-${key.value}`, text);
    else localStorage.removeItem(`draft-${key.value}`);
  });
  return text;
}
