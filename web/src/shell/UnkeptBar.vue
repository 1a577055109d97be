<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query';
import { computed } from 'vue';
import { refused, resume, saw, sendAgain, unkept, whenKept } from '@/api/outbox';

/** Entries that the program has not answered yet: it looks different from what is kept. */
const cache = useQueryClient();
whenKept(() => void cache.invalidateQueries());
resume();
const says = computed(() =>
  unkept.value === 1 ? '1 entry is not kept yet.' : `${unkept.value} entries are not kept yet.`,
);
</script>

<template>
  <aside v-if="unkept || refused.length" class="unkept" role="status">
    <p v-if="unkept">
      <strong>{{ says }}</strong> The program does not answer; each is sent again until it does, once.
      <button class="side-act" type="button" @click="sendAgain">Send now</button>
    </p>
    <p v-for="one in refused" :key="one.id">
      <strong>An entry was not kept:</strong> {{ one.says }} Look again, and enter it anew if it is still
      wanted.
      <button class="side-act" type="button" @click="saw(one.id)">Seen</button>
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
