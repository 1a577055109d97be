<script setup lang="ts">
import { computed } from 'vue';

/** The cylinders that were named as affected: by the driver, by a cut-out, by a stored misfire. */
const named = defineModel<number[]>({ required: true });
const props = defineProps<{ cylinders: number }>();
const all = computed(() => Array.from({ length: props.cylinders }, (_, i) => i + 1));
function turn(cylinder: number) {
  const others = named.value.filter((one) => one !== cylinder);
  named.value = others.length < named.value.length ? others : [...others, cylinder].sort((a, b) => a - b);
}
</script>

<template>
  <fieldset class="affected">
    <legend>Named cylinders <span class="muted small">evidence, not proof</span></legend>
    <button
      v-for="cylinder in all"
      :key="cylinder"
      type="button"
      :aria-label="`Cylinder ${cylinder} affected`"
      :aria-pressed="named.includes(cylinder)"
      @click="turn(cylinder)"
    >
      {{ cylinder }}
    </button>
  </fieldset>
</template>

<style scoped>
.affected {
  border: 0;
  margin: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
legend {
  padding: 0 0 6px;
}
button {
  min-width: 46px;
  min-height: 46px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  font-weight: 700;
  cursor: pointer;
}
button[aria-pressed='true'] {
  background: var(--act);
  border-color: var(--act);
  color: var(--on-act, #fff);
}
</style>
