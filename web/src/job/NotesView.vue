<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import { refusal } from '@/api/client';
import { useDraft } from '@/domain/useDraft';
import { newId } from '@/domain/identity';
import { moment } from '@/domain/time';
import { STAGES } from '@/words';
import StageChecks from '@/sheet/StageChecks.vue';
import { useJob } from './useJob';

/** A stage that has no instruments yet: what was done there is written down and reported. */
const job = useJob();
const route = useRoute();
const here = computed(() => STAGES.find((one) => one.path === route.params.stage) ?? STAGES[1]!);
const notes = computed(() => job.view.value?.file.notes.filter((note) => note.stage === here.value.id) ?? []);
const text = useDraft(computed(() => `note-${job.id.value}-${here.value.id}`));
const wrong = ref('');

async function keep() {
  try {
    await job.change('post', '/api/jobs/{job}/notes', {
      params: { path: { job: job.id.value } },
      body: {
        id: newId(),
        stage: here.value.id,
        text: text.value,
      },
    });
    text.value = '';
    wrong.value = '';
  } catch (error) {
    wrong.value = refusal(error).about('text') || refusal(error).message;
  }
}
</script>

<template>
  <main class="notes">
    <h1>{{ here.word }}</h1>
    <StageChecks v-if="here.id === 'electrical' || here.id === 'rule_out'" :stage="here.id" />
    <p v-else class="muted">
      No instruments for this stage in this version. Note what was done and seen; it is signed, saved and
      printed in the report.
    </p>
    <ul>
      <li v-for="note in notes" :key="note.id">
        <p>{{ note.text }}</p>
        <p class="muted small">{{ job.person(note.signed.by) }}, {{ moment(note.signed.at) }}</p>
      </li>
    </ul>
    <form @submit.prevent="keep">
      <label for="note">Work done and findings</label>
      <textarea id="note" v-model="text" rows="4" :aria-invalid="!!wrong"></textarea>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <button class="main-act" type="submit">Save note</button>
    </form>
  </main>
</template>

<style scoped>
.notes {
  max-width: 820px;
  padding: 24px 22px;
  display: grid;
  gap: 14px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 12px;
}
li {
  border-left: 5px solid var(--act);
  padding-left: 12px;
  font-size: 1.05rem;
}
form {
  display: grid;
  gap: 8px;
  justify-items: start;
}
textarea {
  width: 100%;
  background: var(--sheet);
  border: 2px solid var(--edge);
  border-radius: 6px;
  padding: 10px;
}
</style>
