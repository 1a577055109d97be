<script setup lang="ts">
import { ref } from 'vue';
import type { Refusal } from '@/api/client';
import type { Event, Trouble } from '@/api/types';
import { TROUBLE } from '@/words';

/** Something found while taking out or fitting: tapped, with a few words if there are any. */
const props = defineProps<{
  cylinder: number;
  wrong?: Refusal;
  tell: (event: Event) => Promise<boolean>;
}>();
const note = ref('');
const open = ref(false);
async function found(trouble: Trouble) {
  const told = { cylinder: props.cylinder, trouble, note: note.value.trim() };
  if (await props.tell({ what: 'found_trouble', ...told })) [note.value, open.value] = ['', false];
}
</script>

<template>
  <section>
    <button v-if="!open" class="side-act" type="button" @click="open = true">
      Record fault, cylinder {{ cylinder }}
    </button>
    <form v-else @submit.prevent>
      <label for="trouble-note">Cylinder {{ cylinder }}: short description, if needed</label>
      <input id="trouble-note" v-model="note" autocomplete="off" />
      <p v-if="wrong?.about('note')" class="wrong" role="alert">{{ wrong.about('note') }}</p>
      <div class="kinds">
        <button
          v-for="(word, trouble) in TROUBLE"
          :key="trouble"
          class="side-act"
          type="button"
          @click="found(trouble)"
        >
          {{ word }}
        </button>
      </div>
    </form>
  </section>
</template>

<style scoped>
section > .side-act {
  width: 100%;
}
form {
  display: grid;
  gap: 8px;
}
input {
  min-height: 46px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 10px;
}
.kinds {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
