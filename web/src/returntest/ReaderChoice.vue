<script setup lang="ts">
import { useStorage } from '@vueuse/core';
import { computed, watch } from 'vue';
import { useConnections } from '@/connections/useConnections';
import { atOnce } from '@/trainer/words';

/** Who reads the bottles: people, or an instrument of the connections. The choice stays with this screen. */
const chosen = defineModel<string>({ required: true });
/** In an exercise nothing is chosen before: the bottles of the workshop stand at another engine. */
const props = defineProps<{ exercise: boolean }>();
const { showing } = useConnections();
const listed = computed(() => showing('volume').filter((one) => one.connection.kind === 'bottles'));
const kept = useStorage('bottles-read-by', '');
watch(
  listed,
  (now) =>
    (chosen.value = !props.exercise && now.some((one) => one.connection.id === kept.value) ? kept.value : ''),
  { immediate: true },
);
function choose(id: string) {
  if (!props.exercise) kept.value = id;
  chosen.value = id;
}
</script>

<template>
  <div v-if="listed.length" class="readers" role="radiogroup" aria-label="Bottles read">
    <button type="button" role="radio" :aria-checked="!chosen" @click="choose('')">
      {{ exercise ? atOnce : 'by hand' }}
    </button>
    <button
      v-for="one in listed"
      :key="one.connection.id"
      type="button"
      role="radio"
      :aria-checked="chosen === one.connection.id"
      @click="choose(one.connection.id)"
    >
      by {{ one.connection.name }}
    </button>
  </div>
</template>

<style scoped>
.readers {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
button {
  min-height: 44px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 10px;
  cursor: pointer;
}
button[aria-checked='true'] {
  background: var(--ink);
  border-color: var(--ink);
  color: var(--sheet);
  font-weight: 700;
}
</style>
