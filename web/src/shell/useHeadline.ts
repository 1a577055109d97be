import { ref } from 'vue';

/** What the bar says beside the name: set by the view, read by the bar. */
export const headline = ref<{ title: string; detail: string }>({ title: '', detail: '' });

export function sayHeadline(title: string, detail = ''): void {
  headline.value = { title, detail };
  document.title = title ? `${title} · Cobaltine` : 'Cobaltine';
}
