<script setup lang="ts">
import { ref } from 'vue';
import { useBench } from '@/shell/useBench';
import PinPad from './PinPad.vue';

/** Who is at this tablet: a name is tapped, then its PIN. */
const bench = useBench();
const person = ref<{ id: string; name: string }>();
</script>

<template>
  <PinPad v-if="person" :person="person" @back="person = undefined" />
  <div v-else class="names">
    <button
      v-for="one in bench.sign.value?.bench"
      :key="one.id"
      type="button"
      :aria-pressed="one.id === bench.id.value"
      @click="person = one"
    >
      {{ one.name }}
    </button>
  </div>
</template>

<style scoped>
.names {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: 12px;
}
button {
  min-height: 84px;
  border: 2px solid var(--ink);
  border-left-width: 8px;
  border-radius: 8px;
  background: var(--sheet);
  font-size: 1.25rem;
  font-weight: 700;
  text-align: left;
  padding: 8px 14px;
  cursor: pointer;
}
button[aria-pressed='true'] {
  border-color: var(--act);
}
</style>
