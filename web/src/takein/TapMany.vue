<script setup lang="ts" generic="T extends string">
/** Several of a few words, by tapping: each tap turns one on or off. */
const list = defineModel<T[]>({ required: true });
defineProps<{ legend: string; words: Record<T, string> }>();

function turn(one: T) {
  list.value = list.value.includes(one) ? list.value.filter((held) => held !== one) : [...list.value, one];
}
</script>

<template>
  <fieldset>
    <legend>{{ legend }}</legend>
    <div class="symptoms">
      <button
        v-for="(word, one) in words"
        :key="one"
        type="button"
        :aria-pressed="list.includes(one as T)"
        @click="turn(one as T)"
      >
        {{ word }}
      </button>
    </div>
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 4px 0 12px;
}
fieldset > legend {
  padding: 0 0 6px;
  margin: 0;
  border: 0;
  font-size: 1rem;
  color: var(--ink);
}
.symptoms {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
button {
  min-height: 46px;
  border: 2px solid var(--edge);
  border-radius: 23px;
  background: var(--sheet);
  padding: 0 15px;
  cursor: pointer;
}
button[aria-pressed='true'] {
  background: var(--ink);
  border-color: var(--ink);
  color: var(--sheet);
  font-weight: 700;
}
</style>
