<script setup lang="ts">
/** The number pad for gloves: it types into the tube that was touched last. */
defineProps<{ down: boolean }>();
const emit = defineEmits<{ press: [key: string]; back: []; next: []; turn: [] }>();
const PAD = ['7', '8', '9', '4', '5', '6', '1', '2', '3', '0', '.'];
</script>

<template>
  <div class="pad" aria-label="Number pad">
    <button v-for="key in PAD" :key="key" type="button" @pointerdown.prevent @click="emit('press', key)">
      {{ key }}
    </button>
    <button type="button" aria-label="Delete" @pointerdown.prevent @click="emit('back')">⌫</button>
    <button type="button" class="turn" :aria-pressed="down" @pointerdown.prevent @click="emit('turn')">
      {{ down ? '↓ down columns' : '→ across rows' }} <span class="key">D</span>
    </button>
    <button type="button" class="enter" @pointerdown.prevent @click="emit('next')">
      Next <span class="key">Enter</span>
    </button>
  </div>
</template>

<style scoped>
.pad {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 5px;
}
button {
  min-height: 46px;
  border: 2px solid var(--edge);
  border-radius: 7px;
  background: var(--sheet);
  color: inherit;
  font-size: 1.15rem;
  font-weight: 700;
  cursor: pointer;
}
.turn,
.enter {
  font-size: 0.85rem;
}
.turn {
  grid-column: span 2;
}
.enter {
  background: var(--act);
  border-color: var(--act);
  color: var(--act-ink);
}
</style>
