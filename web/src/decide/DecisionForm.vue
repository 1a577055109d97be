<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Decision } from '@/api/types';
import { useDraft } from '@/domain/useDraft';
import { useJob } from '@/job/useJob';
import { DECISION } from '@/words';

/** Another decision than the proposed one: it needs a reason in words. */
const props = defineProps<{ cylinder: number; all: number[] }>();
const emit = defineEmits<{
  close: [];
  decide: [decisions: { cylinder: number; decision: Decision; reason: string }[]];
}>();
const whole = ref(false);
const job = useJob();
const chosen = ref<Decision>('measure_again');
const reason = useDraft(computed(() => `why-${job.id.value}-${props.cylinder}`));

function send() {
  const cylinders = whole.value ? props.all : [props.cylinder];
  emit(
    'decide',
    cylinders.map((cylinder) => ({ cylinder, decision: chosen.value, reason: reason.value })),
  );
}
</script>

<template>
  <form @submit.prevent="send" @keydown.escape="reason || emit('close')">
    <div class="choices" role="radiogroup" aria-label="Decision">
      <label v-for="(word, decision) in DECISION" :key="decision" :class="{ chosen: chosen === decision }">
        <input v-model="chosen" type="radio" name="decision" :value="decision" /> {{ word }}
      </label>
    </div>
    <label v-if="all.length > 1" class="whole">
      <input v-model="whole" type="checkbox" /> All {{ all.length }} injectors, for one reason
    </label>
    <label for="reason">Why</label>
    <textarea id="reason" v-model="reason" rows="2"></textarea>
    <button class="main-act" type="submit">
      Decide{{ whole ? ` all ${all.length}` : '' }}: {{ DECISION[chosen].toLowerCase() }}
    </button>
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
.whole {
  min-height: 46px;
  display: flex;
  gap: 10px;
  align-items: center;
}
.whole input {
  width: 26px;
  height: 26px;
}
textarea {
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 8px;
}
</style>
