<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Decision } from '@/api/types';
import { useDraft } from '@/domain/useDraft';
import { useJob } from '@/job/useJob';
import { DECISION } from '@/words';

/** Another decision than the proposed one: it needs a reason in words. */
const props = defineProps<{ cylinder: number }>();
const emit = defineEmits<{ decide: [decision: { cylinder: number; decision: Decision; reason: string }] }>();
const job = useJob();
const chosen = ref<Decision>('measure_again');
const reason = useDraft(computed(() => `why-${job.id.value}-${props.cylinder}`));

function send() {
  emit('decide', { cylinder: props.cylinder, decision: chosen.value, reason: reason.value });
}
</script>

<template>
  <form @submit.prevent="send">
    <div class="choices" role="radiogroup" aria-label="Decision">
      <label v-for="(word, decision) in DECISION" :key="decision" :class="{ chosen: chosen === decision }">
        <input v-model="chosen" type="radio" name="decision" :value="decision" /> {{ word }}
      </label>
    </div>
    <label for="reason">Why</label>
    <textarea id="reason" v-model="reason" rows="2"></textarea>
    <button class="main-act" type="submit">Decide: {{ DECISION[chosen].toLowerCase() }}</button>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 8px;
}
.choices {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(180px, 1fr));
  gap: 6px;
}
.choices label {
  min-height: 46px;
  display: flex;
  gap: 10px;
  align-items: center;
  border: 2px solid var(--edge);
  border-radius: 6px;
  padding: 0 10px;
  background: var(--sheet);
}
.choices .chosen {
  border-color: var(--act);
  background: var(--act-soft);
  font-weight: 700;
}
textarea {
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 8px;
}
</style>
