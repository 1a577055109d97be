<script setup lang="ts">
import { computed, ref } from 'vue';
import type { StartForm, StartId } from '@/api/types';

/** What has to be so before a run; what is left open is named in the result. */
const props = defineProps<{ conditions: StartForm[]; ticked: string[] }>();
const emit = defineEmits<{ turn: [id: StartId, on: boolean] }>();
const has = (id: string) => props.ticked.includes(id);
const all = computed(() => props.conditions.every((one) => has(one.id)));
const open = ref(false);
</script>

<template>
  <fieldset v-if="conditions.length" class="ticks">
    <legend>Checklist</legend>
    <button v-if="all && !open" class="so" type="button" @click="open = true">
      All confirmed: {{ conditions.length }} of {{ conditions.length }}
    </button>
    <label v-for="one in all && !open ? [] : conditions" :key="one.id">
      <input
        type="checkbox"
        :data-start="one.id"
        :checked="has(one.id)"
        @change="emit('turn', one.id, ($event.target as HTMLInputElement).checked)"
      />
      <span>{{ one.word }}</span>
    </label>
  </fieldset>
</template>

<style scoped>
.ticks {
  border: 0;
  margin: 0;
  padding: 0;
}
legend {
  font-weight: 700;
  padding: 0;
}
label {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 44px;
  line-height: 1.2;
  font-size: 0.95rem;
  border-bottom: 1px solid var(--line);
}
.so {
  min-height: 44px;
  border: 0;
  border-left: 5px solid var(--inside);
  background: none;
  padding: 0 0 0 12px;
  cursor: pointer;
}
input {
  flex: none;
  width: 26px;
  height: 26px;
  accent-color: var(--act);
}
</style>
