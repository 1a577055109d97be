<script setup lang="ts">
/** One answer of a cylinder: each tap goes to the next answer, and after the last to none. */
const props = withDefaults(
  defineProps<{ word: string; choices: string[]; value: string; cylinder: number; noun?: string }>(),
  { noun: 'cylinder' },
);
const emit = defineEmits<{ chose: [value: string] }>();
function next() {
  const at = props.value === '' ? -1 : Number(props.value);
  emit('chose', at + 1 < props.choices.length ? String(at + 1) : '');
}
</script>

<template>
  <button
    class="choice"
    type="button"
    data-cell
    :class="{ said: value !== '' }"
    :aria-label="`${word} of ${noun} ${cylinder}: ${choices[Number(value)] && value !== '' ? choices[Number(value)] : 'not said'}`"
    @click="next"
  >
    {{ value === '' ? '·' : choices[Number(value)] }}
  </button>
</template>

<style scoped>
.choice {
  display: block;
  width: calc(100% - 12px);
  margin: 5px 6px;
  min-height: 52px;
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
.said {
  border: 2px solid var(--ink);
  background: var(--sheet);
  color: var(--ink);
  font-weight: 700;
}
</style>
