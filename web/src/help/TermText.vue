<script setup lang="ts">
import { computed, ref } from 'vue';
import { TERMS } from './words';

/** A sentence whose trade words are explained under the finger. */
const props = defineProps<{ text: string }>();
const NAMES = Object.keys(TERMS)
  .filter((term) => term.length > 2)
  .sort((a, b) => b.length - a.length);
const WORD = new RegExp(
  `\\b(${NAMES.map((one) => one.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')).join('|')})\\b`,
  'i',
);
/** Each word once, the first time that it stands there. */
const parts = computed(() => {
  const found: { text: string; term: string }[] = [];
  const seen = new Set<string>();
  let rest = props.text;
  for (;;) {
    const hit = WORD.exec(rest);
    if (!hit) break;
    const term = hit[0].toLowerCase();
    found.push({ text: rest.slice(0, hit.index), term: '' });
    found.push({ text: hit[0], term: seen.has(term) ? '' : term });
    seen.add(term);
    rest = rest.slice(hit.index + hit[0].length);
  }
  return [...found, { text: rest, term: '' }];
});
const open = ref('');
</script>

<template>
  <span
    ><template v-for="(part, i) in parts" :key="i"
      ><button
        v-if="part.term"
        type="button"
        class="term"
        :aria-expanded="open === part.term"
        @click="open = open === part.term ? '' : part.term"
      >
        {{ part.text }}</button
      ><template v-else>{{ part.text }}</template></template
    ><span v-if="open" class="says" role="status"
      ><strong>{{ open }}</strong
      >: {{ TERMS[open] }}</span
    ></span
  >
</template>

<style scoped>
.term {
  border: 0;
  background: none;
  padding: 12px 3px;
  margin: -12px -3px;
  font: inherit;
  color: inherit;
  text-decoration: underline dotted 2px;
  text-underline-offset: 3px;
  cursor: help;
}
.says {
  display: block;
  font-weight: 400;
  border-left: 4px solid var(--act);
  padding: 2px 0 2px 10px;
  margin-top: 4px;
}
</style>
