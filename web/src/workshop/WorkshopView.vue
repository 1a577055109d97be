<script setup lang="ts">
import { computed, ref } from 'vue';
import { Refusal, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { JobFile, ImportView } from '@/api/types';
import { sayHeadline } from '@/shell/useHeadline';
import { useBench } from '@/shell/useBench';
import ShelfNav from '@/shell/ShelfNav.vue';
import ProfileForm from '@/start/ProfileForm.vue';
import BackupList from './BackupList.vue';
import PeopleList from './PeopleList.vue';
import TabletList from './TabletList.vue';
import TransferList from './TransferList.vue';

/** People, and jobs in from a file. */
sayHeadline('Workshop', 'people, files');
const bench = useBench();
const mayExport = computed(() => bench.open.value || bench.sign.value?.person?.role === 'owner');
const wrong = ref<Refusal>();
const done = ref<ImportView>();

async function take(event: Event) {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  if (!file) return;
  done.value = undefined;
  wrong.value = undefined;
  try {
    // As it is: the program reads it and says what is wrong in it.
    done.value = await act('post', '/api/jobs/import', { body: (await file.text()) as unknown as JobFile });
  } catch (error) {
    wrong.value = refusal(error);
  }
  input.value = '';
}
</script>

<template>
  <main>
    <div class="top"><ShelfNav /></div>
    <div class="workshop">
      <section>
        <h1>This workshop</h1>
        <ProfileForm />
      </section>
      <PeopleList />
      <BackupList />
      <TabletList v-if="!bench.open.value" />
      <section>
        <h1>Import a job</h1>
        <p class="muted">
          A job file (JSON) is imported whole or not at all. Its format is described by the
          <a href="/api/schema/job.json">JSON Schema</a>.
        </p>
        <label class="main-act">
          Choose job file
          <input type="file" accept="application/json,.json" @change="take" />
        </label>
        <p v-if="done" role="status">
          {{ done.already_here ? 'This job is already here.' : 'Imported.' }}
          <RouterLink :to="`/jobs/${done.id}/on-engine`">Open job</RouterLink>
        </p>
        <div v-if="wrong" role="alert">
          <p class="wrong">{{ wrong.message }} Nothing was imported.</p>
          <ul>
            <li v-for="problem in wrong.fields" :key="problem.field + problem.message">
              <strong>{{ problem.field }}</strong>: {{ problem.message }}
            </li>
          </ul>
        </div>
      </section>
      <TransferList v-if="mayExport" />
    </div>
  </main>
</template>

<style scoped>
.top {
  padding: 0 10px;
  border-bottom: 1px solid var(--line);
}
.workshop {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(320px, 1fr));
  gap: 30px;
  padding: 24px 22px;
}
section {
  display: grid;
  gap: 12px;
  align-content: start;
  justify-items: start;
}
label input {
  position: absolute;
  opacity: 0;
  width: 1px;
}
label:focus-within {
  outline: 3px solid var(--act);
  outline-offset: 2px;
}
</style>
