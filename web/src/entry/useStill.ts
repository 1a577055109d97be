import { nextTick, onScopeDispose, watch } from 'vue';

/**
 * Holds the field under the finger where it is: what grows above it when something was judged moves the page and
 * not the field. A page that is too short to be moved gets room below for as long as its view is open.
 */
export function useStill(changes: () => unknown): void {
  const { body, documentElement: page } = document;
  watch(changes, () => {
    const field = document.activeElement;
    if (!field?.matches('[data-cell], [data-entry]')) return;
    const before = field.getBoundingClientRect().top;
    void nextTick(() => {
      const moved = field.isConnected ? Math.round(field.getBoundingClientRect().top - before) : 0;
      if (!moved) return;
      const lacks = window.scrollY + moved - (page.scrollHeight - window.innerHeight);
      const room = Number.parseFloat(body.style.paddingBottom) || 0;
      if (lacks > 0) body.style.paddingBottom = `${room + lacks}px`;
      window.scrollBy({ top: moved, behavior: 'instant' });
    });
  });
  onScopeDispose(() => body.style.removeProperty('padding-bottom'));
}
