<script setup lang="ts">
import { computed, ref } from 'vue';
import { refusal } from '@/api/client';
import type { Judgement } from '@/api/types';
import { useDraft } from '@/domain/useDraft';
import { moment } from '@/domain/time';
import { useJob } from '@/job/useJob';
import PinForm from '@/shell/PinForm.vue';
import { usePeople } from '@/shell/usePeople';

/** A second person signs the decisions, or returns them with remarks. */
const props = defineProps<{ judgement: Judgement }>();
const job = useJob();
const remarks = useDraft(computed(() => `review-${job.id.value}`));
const people = usePeople();
const [pin, choosing] = [ref(''), ref(false)];
const wrong = ref('');
const review = computed(() => props.judgement.review);
async function say(signed: boolean) {
  try {
    await job.happened({ what: 'reviewed', signed, remarks: remarks.value.trim() }, pin.value);
    [remarks.value, wrong.value] = ['', ''];
  } catch (error) {
    const problem = refusal(error);
    choosing.value = !!problem.about('pin') && !people.me.value?.has_pin;
    wrong.value = choosing.value ? '' : (problem.fields[0]?.message ?? problem.message);
  } finally {
    pin.value = '';
  }
}
</script>

<template>
  <section aria-label="Review">
    <h2 class="minor">Second signature</h2>
    <p v-if="review" class="held" :class="{ returned: !review.signed }">
      <strong>{{ review.signed ? 'Signed' : 'Returned' }}</strong> by {{ job.person(review.by) }},
      {{ moment(review.at) }}<template v-if="review.remarks">: {{ review.remarks }}</template>
      <span v-for="line in review.since" :key="line" class="since">Since then: {{ line }}</span>
    </p>
    <label for="remarks" class="small">Remarks (needed to return it)</label>
    <textarea id="remarks" v-model="remarks" rows="2"></textarea>
    <template v-if="choosing">
      <p>A second signature needs a PIN of your own. Choose it once, then sign.</p>
      <PinForm @done="choosing = false" />
    </template>
    <template v-else-if="people.me.value?.has_pin">
      <label for="review-pin" class="small">PIN of {{ people.me.value?.name }}</label>
      <input id="review-pin" v-model="pin" type="password" inputmode="numeric" autocomplete="off" />
    </template>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <div v-if="!choosing" class="buttons">
      <button class="side-act" type="button" @click="say(true)">Sign decision</button>
      <button class="side-act" type="button" @click="say(false)">Return with remarks</button>
    </div>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 6px;
}
.held {
  border-left: 6px solid var(--inside);
  padding-left: 10px;
}
.returned {
  border-color: var(--too-much);
}
.since {
  display: block;
  font-weight: 700;
}
input {
  min-height: 48px;
  width: 10em;
}
textarea,
input {
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 6px;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
