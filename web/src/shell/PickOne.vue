<script setup lang="ts" generic="T extends string | number">
/** One of a few, all in sight: large enough for a glove, arrow keys move. */
const chosen = defineModel<T>({ required: true });
const props = defineProps<{ word: string; options: { value: T; word: string }[] }>();

function move(by: number, event: KeyboardEvent) {
  const at = props.options.findIndex((option) => option.value === chosen.value);
  const next = props.options[(at + by + props.options.length) % props.options.length];
  if (!next) return;
  event.preventDefault();
  chosen.value = next.value;
  const group = event.currentTarget as HTMLElement;
  group.querySelectorAll<HTMLElement>('[role=radio]')[props.options.indexOf(next)]?.focus();
}
</script>

<template>
  <div class="pick">
    <span class="word">{{ word }}</span>
    <div
      class="options"
      role="radiogroup"
      :aria-label="word"
      @keydown.right="move(1, $event)"
      @keydown.left="move(-1, $event)"
    >
      <button
        v-for="option in options"
        :key="option.value"
        type="button"
        role="radio"
        :aria-checked="option.value === chosen"
        :tabindex="option.value === chosen ? 0 : -1"
        @click="chosen = option.value"
      >
        {{ option.word }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.pick {
  display: grid;
  gap: 4px;
}
.options {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
button {
  min-height: 46px;
  min-width: 46px;
  padding: 0 13px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  cursor: pointer;
}
button[aria-checked='true'] {
  background: var(--act);
  border-color: var(--act);
  color: var(--act-ink);
  font-weight: 700;
}
</style>
