<script setup lang="ts">
import { useKeys } from '@/shell/useKeys';

/** What can be done with printed pages: links and acts of the view, the paper, and print. */
const paper = defineModel<'A4' | 'letter'>('paper', { required: true });
const print = () => window.print();
useKeys([{ key: 'Ctrl+p', word: 'print', run: print }]);
</script>

<template>
  <nav class="tools" aria-label="Printed pages">
    <slot />
    <select v-model="paper" aria-label="Paper">
      <option value="A4">A4</option>
      <option value="letter">Letter</option>
    </select>
    <button class="main-act" type="button" @click="print">Print <span class="key">Ctrl P</span></button>
  </nav>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  padding: 12px 22px;
  justify-content: flex-end;
}
select {
  min-height: 52px;
  border: 2px solid var(--ink);
  border-radius: 8px;
  background: var(--paper);
  color: inherit;
  font: inherit;
  padding: 0 10px;
}
@media print {
  .tools {
    display: none;
  }
}
</style>
