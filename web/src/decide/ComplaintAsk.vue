<script setup lang="ts">
import { ref } from 'vue';
import { refusal } from '@/api/client';
import { useJob } from '@/job/useJob';
import { complaintIs, COMPLAINT_NOW } from './words';

/** After a repair whoever drives is asked once: is the complaint gone, better or the same? */
const props = defineProps<{ told?: string | null }>();
const job = useJob();
const wrong = ref('');
async function tell(answer: 'gone' | 'better' | 'same') {
  try {
    await job.happened({ what: 'complaint_asked', answer });
    wrong.value = '';
  } catch (error) {
    wrong.value = refusal(error).message;
  }
}
</script>

<template>
  <div class="ask" role="group" :aria-label="complaintIs">
    <span class="small">{{ complaintIs }}</span>
    <button
      v-for="[answer, word] in COMPLAINT_NOW"
      :key="answer"
      type="button"
      class="side-act"
      :aria-pressed="props.told === answer"
      @click="tell(answer)"
    >
      {{ word }}
    </button>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
  </div>
</template>

<style scoped>
.ask {
  margin: 4px 0;
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}
[aria-pressed='true'] {
  border-width: 3px;
  font-weight: 700;
}
</style>
