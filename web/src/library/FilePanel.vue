<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { ask, Refusal, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { LibraryPreview } from '@/api/types';
import ColumnChoice from './ColumnChoice.vue';
import FilePreview from './FilePreview.vue';

/** Limits from a file: what would change is seen first, row by row. */
const cache = useQueryClient();
const text = ref('');
const name = ref('');
const preview = ref<LibraryPreview>();
const done = ref<LibraryPreview>();
const wrong = ref<Refusal>();
const busy = ref(false);
const format = computed<'json' | 'csv'>(() => (text.value.trimStart().startsWith('{') ? 'json' : 'csv'));
/** What each column is, as chosen here; none to take what was said last time, or what their words say. */
const columns = ref<string[]>([]);

async function send(what: 'preview' | 'import', leave_out_bad_rows = false) {
  busy.value = true;
  wrong.value = undefined;
  try {
    const body = { format: format.value, text: text.value, leave_out_bad_rows, columns: columns.value };
    const answer =
      what === 'import'
        ? await act('post', '/api/library/import', { body })
        : await ask('post', '/api/library/preview', { body });
    if (what === 'preview') {
      preview.value = answer;
      columns.value = [...answer.columns];
      done.value = undefined;
    } else {
      done.value = answer;
      preview.value = undefined;
      await cache.invalidateQueries({ queryKey: ['library'] });
    }
  } catch (error) {
    wrong.value = refusal(error);
  }
  busy.value = false;
}

async function take(event: Event) {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  if (!file) return;
  name.value = file.name;
  columns.value = [];
  text.value = await file.text();
  input.value = '';
  await send('preview');
}
</script>

<template>
  <section class="file">
    <h1>Import limits</h1>
    <p class="muted">
      A table whose first row names the columns, in any words: what each is, you say once. Or the library as
      JSON, by its <a href="/api/schema/library.json">JSON Schema</a>. A unit may follow each number, or stand
      in brackets in the heading.
    </p>
    <p class="acts">
      <label class="main-act">
        Choose file
        <input type="file" accept=".csv,.json,text/csv,application/json" @change="take" />
      </label>
      <span v-if="name">{{ name }}</span>
    </p>
    <label class="paste">
      <span>or paste rows here</span>
      <textarea
        v-model="text"
        rows="5"
        spellcheck="false"
        aria-label="Rows to import"
        @input="columns = []"
      />
    </label>
    <button class="side-act" type="button" :disabled="!text.trim() || busy" @click="send('preview')">
      Preview changes
    </button>

    <div v-if="wrong" role="alert">
      <p class="wrong">{{ wrong.message }} Nothing was changed.</p>
      <ul>
        <li v-for="problem in wrong.fields" :key="problem.field + problem.message">
          <strong>{{ problem.field }}</strong>: {{ problem.message }}
        </li>
      </ul>
    </div>

    <ColumnChoice
      v-if="preview?.headings.length"
      v-model="columns"
      :headings="preview.headings"
      :known="preview.known"
      @update:model-value="send('preview')"
    />
    <p v-if="preview?.refused" class="wrong" role="alert">{{ preview.refused }}</p>
    <FilePreview v-else-if="preview" :preview="preview" :busy="busy" @take="send('import', $event)" />
    <p v-if="done" class="done" role="status">
      {{ done.adds }} new and {{ done.revises }} revised entries imported<template v-if="done.bad_rows"
        >; {{ done.bad_rows }} rows skipped</template
      >. Older tests keep the limits they were assessed by.
    </p>
  </section>
</template>

<style scoped>
.file {
  width: 100%;
}
.acts {
  display: flex;
  align-items: center;
  gap: 14px;
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
.paste {
  display: grid;
  gap: 4px;
  width: 100%;
}
textarea {
  width: 100%;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--paper);
  padding: 8px 10px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  width: 100%;
}
li {
  border-top: 1px solid var(--line);
  padding: 6px 0;
}
.done {
  border-left: 6px solid var(--inside);
  padding: 6px 14px;
  font-size: 1.1rem;
}
</style>
