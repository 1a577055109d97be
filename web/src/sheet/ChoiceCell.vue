<script setup lang="ts">
import { computed } from 'vue';

/**
 * The answer of one cylinder. Up to three answers stand in sight and are tapped directly; of more, each
 * tap goes to the next, and after the last to none.
 */
const props = withDefaults(
  defineProps<{ word: string; choices: string[]; value: string; cylinder: number; noun?: string }>(),
  { noun: 'cylinder' },
);
const emit = defineEmits<{ chose: [value: string] }>();
const few = computed(() => props.choices.length <= 3);
const says = computed(() => (props.value === '' ? '' : (props.choices[Number(props.value)] ?? '')));
function next() {
  const at = props.value === '' ? -1 : Number(props.value);
  emit('chose', at + 1 < props.choices.length ? String(at + 1) : '');
}
</script>

<template>
  <div v-if="few" class="few" role="group" :aria-label="`${word} of ${noun} ${cylinder}`">
    <button
      v-for="(choice, i) in choices"
      :key="choice"
      class="choice"
      type="button"
      data-cell
      :data-answer="i"
      :class="{ said: value === String(i) }"
      :aria-pressed="value === String(i)"
      :aria-label="`${word} of ${noun} ${cylinder}: ${choice}`"
      @click="emit('chose', value === String(i) ? '' : String(i))"
    >
      {{ choice }}
    </button>
  </div>
  <button
    v-else
    class="choice many"
    type="button"
    data-cell
    :class="{ said: value !== '' }"
    :aria-label="`${word} of ${noun} ${cylinder}: ${says || 'not stated'}`"
    @click="next"
  >
    {{ says || `${choices[0]} …` }}
  </button>
</template>

<style scoped>
.few {
  display: grid;
  gap: 3px;
  padding: 4px 6px;
}
.choice {
  min-height: 44px;
  border: 2px dashed var(--edge);
  border-radius: 6px;
  background: none;
  cursor: pointer;
  color: var(--muted);
  padding: 0 2px;
  font-size: clamp(0.7rem, calc(17 * var(--cell)), 1rem);
  line-height: 1.15;
  overflow-wrap: anywhere;
}
.many {
  display: block;
  width: calc(100% - 12px);
  margin: 5px 6px;
  min-height: 52px;
}
.said {
  border: 2px solid var(--ink);
  background: var(--ink);
  color: var(--sheet);
  font-weight: 700;
}
</style>
