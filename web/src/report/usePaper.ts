import { useLocalStorage } from '@vueuse/core';
import { onScopeDispose, watchEffect } from 'vue';

const KEPT = 'report-paper';

/**
 * The paper that is printed on, remembered by this browser, with a line for the foot of each sheet; the
 * rule is taken away with the view.
 */
export function usePaper(foot: () => string = () => '') {
  const paper = useLocalStorage<'A4' | 'letter'>(KEPT, 'A4');
  const rule = document.createElement('style');
  document.head.append(rule);
  watchEffect(() => {
    const line = (text: string) => `font: 7pt B612, sans-serif; vertical-align: top; content: ${text};`;
    const left = `@bottom-left { ${line(JSON.stringify(foot()))} white-space: nowrap; }`;
    const right = `@bottom-right { ${line('counter(page) " / " counter(pages)')} }`;
    const feet = foot() ? left + right : '';
    rule.textContent = `@page { size: ${paper.value} portrait; margin: 13mm 14mm 14mm; ${feet} }`;
  });
  onScopeDispose(() => rule.remove());
  return { paper };
}
