<script setup lang="ts">
import { ref } from 'vue';
import type { Refusal } from '@/api/client';
import type { Event, Part } from '@/api/types';
import { newId } from '@/domain/identity';
import TypedField from '@/shell/TypedField.vue';
import { PART } from '@/words';

/** Another injector goes into this cylinder: its own label, so that its code and its life are its own. */
const props = defineProps<{
  cylinder: number;
  wrong?: Refusal;
  tell: (event: Event) => Promise<boolean>;
}>();
const label = ref('');
const open = ref(false);
async function put(part: Part) {
  const injector = { id: newId(), cylinder: props.cylinder, label: label.value.trim() };
  if (await props.tell({ what: 'replaced', injector, part })) [label.value, open.value] = ['', false];
}
</script>

<template>
  <section>
    <button v-if="!open" class="side-act" type="button" @click="open = true">
      Change injector, cylinder {{ cylinder }}
    </button>
    <form v-else @submit.prevent>
      <TypedField
        v-model="label"
        name="label"
        word="Serial number or label"
        wide
        :wrong="wrong?.about('label') || wrong?.about('labels')"
      />
      <p class="muted small">Earlier readings stay with the removed injector.</p>
      <div class="kinds">
        <button
          v-for="(word, part) in PART"
          :key="part"
          class="side-act"
          type="button"
          :disabled="!label.trim()"
          @click="put(part)"
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
.kinds {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
