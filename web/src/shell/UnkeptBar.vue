<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query';
import { computed } from 'vue';
import { refused, resume, saw, sendAgain, unkept, whenKept } from '@/api/outbox';
import { entryNotSavedYet, entriesNotSavedYet } from '@/shell/words';

/** Entries that the program has not answered yet: it looks different from what is kept. */
const cache = useQueryClient();
whenKept(() => void cache.invalidateQueries());
resume();
const says = computed(() => (unkept.value === 1 ? entryNotSavedYet : entriesNotSavedYet(unkept.value)));
</script>

<template>
  <aside v-if="unkept || refused.length" class="unkept" role="status">
    <p v-if="unkept">
      <strong>{{ says }}</strong> No answer from Cobaltine; each is sent again, once only, until it answers.
      <button class="side-act" type="button" @click="sendAgain">Send now</button>
    </p>
    <p v-for="one in refused" :key="one.id">
      <strong>An entry was not saved:</strong> {{ one.says }} Look again, and enter it again if still needed.
      <button class="side-act" type="button" @click="saw(one.id)">Dismiss message</button>
    </p>
  </aside>
</template>

<style scoped>
.unkept {
  background: var(--sheet);
  color: var(--ink);
  border-bottom: 3px dashed var(--look);
  padding: 6px 22px;
}
.unkept p {
  margin: 2px 0;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
}
.unkept button {
  min-height: 40px;
  padding: 0 14px;
}
@media print {
  .unkept {
    display: none;
  }
}
</style>
