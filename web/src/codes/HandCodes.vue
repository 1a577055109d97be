<script setup lang="ts">
import { reactive, ref } from 'vue';
import type { SlotView } from '@/api/types';
import { refusal } from '@/api/client';
import { useJob } from '@/job/useJob';

/**
 * What another scan tool shows as stored, typed or pasted by whoever saw it: first as found, after writing
 * as read back.
 */
const props = defineProps<{ slots: readonly SlotView[]; read: boolean }>();
const emit = defineEmits<{ kept: [] }>();
const job = useJob();
const texts = reactive<Record<number, string>>({});
const wrong = ref('');
const busy = ref(false);
/** A column that is pasted fills the fields below it as well. */
function paste(event: ClipboardEvent, from: number) {
  const lines = (event.clipboardData?.getData('text') ?? '').split(/[\s;,]+/).filter(Boolean);
  if (lines.length < 2) return;
  event.preventDefault();
  lines.forEach((line, i) => {
    const slot = props.slots[from + i];
    if (slot) texts[slot.cylinder] = line;
  });
}
async function keep() {
  busy.value = true;
  try {
    const slots = props.slots
      .filter((slot) => texts[slot.cylinder]?.trim())
      .map((slot) => ({ cylinder: slot.cylinder, code: texts[slot.cylinder]!.trim().toUpperCase() }));
    await job.happened({ what: 'codes_read', slots, by_hand: true });
    for (const slot of props.slots) texts[slot.cylinder] = '';
    wrong.value = '';
    emit('kept');
  } catch (error) {
    const told = refusal(error);
    wrong.value = told.fields[0]?.message ?? told.message;
  }
  busy.value = false;
}
</script>

<template>
  <details>
    <summary>{{ read ? 'Type codes read back elsewhere' : 'Type codes stored in the ECU' }}</summary>
    <form @submit.prevent="keep">
      <p class="muted small">
        As another scan tool shows them. Your signature says who saw them; a column can be pasted.
      </p>
      <label v-for="(slot, i) in slots" :key="slot.cylinder">
        <span>{{ slot.cylinder }}</span>
        <input
          v-model="texts[slot.cylinder]"
          autocomplete="off"
          spellcheck="false"
          :aria-label="`Code stored for cylinder ${slot.cylinder}`"
          @paste="paste($event, i)"
        />
      </label>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <button class="side-act" type="submit" :disabled="busy">Save stored codes</button>
    </form>
  </details>
</template>

<style scoped>
form {
  display: grid;
  gap: 6px;
}
label {
  display: grid;
  grid-template-columns: 30px 1fr;
  gap: 8px;
  align-items: center;
  font-weight: 700;
}
input {
  min-height: 46px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 10px;
  text-transform: uppercase;
}
summary {
  min-height: 44px;
  display: flex;
  align-items: center;
  cursor: pointer;
  color: var(--act);
  text-decoration: underline;
}
</style>
