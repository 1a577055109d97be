<script setup lang="ts">
import { ref } from 'vue';
import type { Event, ProofView, Symptom } from '@/api/types';
import { moment } from '@/domain/time';
import { useJob } from '@/job/useJob';
import TapMany from '@/takein/TapMany.vue';
import { SYMPTOM } from '@/words';

/** Closing: as proven, or with signed exceptions; and what comes back after it. */
defineProps<{ closing: ProofView['proof']['closing']; busy: boolean; wrong?: string }>();
const emit = defineEmits<{ close: []; tell: [event: Event] }>();
const job = useJob();
const reason = ref('');
/** What it came back with: what it came in with stays, where nothing is tapped. */
const symptoms = ref<Symptom[]>([]);
function reopen(comeback: boolean) {
  const back = comeback ? symptoms.value : [];
  emit('tell', { what: 'reopened', comeback, reason: reason.value.trim(), symptoms: back });
  [reason.value, symptoms.value] = ['', []];
}
function cancel() {
  emit('tell', { what: 'cancelled', reason: reason.value.trim() });
  reason.value = '';
}
</script>

<template>
  <section
    class="closing"
    :class="{ shut: closing.closed, excepted: closing.exceptions.length || closing.cancelled }"
  >
    <template v-if="closing.closed">
      <h2>
        {{ closing.cancelled ? 'Cancelled' : closing.proven ? 'Closed as proven' : 'Closed with exceptions' }}
      </h2>
      <p v-if="closing.cancelled">{{ closing.cancelled }}</p>
      <p>{{ job.person(closing.closed.by) }}, {{ moment(closing.closed.at) }}</p>
      <details>
        <summary>Comeback, or closed too early</summary>
        <form @submit.prevent>
          <label for="reopen">What came back, or what was missing</label>
          <input id="reopen" v-model="reason" autocomplete="off" :aria-invalid="!!wrong" />
          <span v-if="wrong" class="wrong small" role="alert">{{ wrong }}</span>
          <TapMany v-model="symptoms" legend="What it came back with" :words="SYMPTOM" />
          <button class="side-act" type="button" :disabled="busy" @click="reopen(true)">Log comeback</button>
          <button class="side-act" type="button" :disabled="busy" @click="reopen(false)">Reopen job</button>
        </form>
      </details>
    </template>
    <template v-else>
      <button class="main-act" type="button" :disabled="busy || !!closing.refused" @click="emit('close')">
        {{ closing.proven ? 'Close as proven' : 'Close with exceptions' }}
      </button>
      <p v-if="closing.refused" class="muted">{{ closing.refused }}</p>
      <details>
        <summary>Cancel this job</summary>
        <form @submit.prevent="cancel">
          <label for="cancel">Why: called off, put away, sent elsewhere</label>
          <input id="cancel" v-model="reason" autocomplete="off" :aria-invalid="!!wrong" />
          <span v-if="wrong" class="wrong small" role="alert">{{ wrong }}</span>
          <button class="side-act" type="submit" :disabled="busy || !reason.trim()">Cancel job</button>
        </form>
      </details>
    </template>
    <p v-for="one in closing.exceptions" :key="one" class="caution">{{ one }}</p>
  </section>
</template>

<style scoped>
.closing,
form {
  display: grid;
  gap: 8px;
}
.shut {
  border-left: 6px solid var(--inside);
  padding-left: 12px;
}
.shut.excepted {
  border-left-color: var(--look);
}
summary {
  min-height: 44px;
  display: flex;
  align-items: center;
  cursor: pointer;
  color: var(--act);
  text-decoration: underline;
}
input {
  min-height: 46px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 10px;
}
</style>
