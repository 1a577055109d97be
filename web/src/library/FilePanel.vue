<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { ask, Refusal, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { LibraryPreview } from '@/api/types';

/** Limits from a file: what would change is seen first, row by row. */
const cache = useQueryClient();
const text = ref('');
const name = ref('');
const preview = ref<LibraryPreview>();
const done = ref<LibraryPreview>();
const wrong = ref<Refusal>();
const busy = ref(false);
const format = computed(() => (text.value.trimStart().startsWith('{') ? 'json' : 'csv'));
const COLUMNS = 'family, kind, check, condition, lower, upper, from_c, to_c, from_kpa, to_kpa, source';

async function send(what: 'preview' | 'import', leave_out_bad_rows = false) {
  busy.value = true;
  wrong.value = undefined;
  try {
    const body = { format: format.value, text: text.value, leave_out_bad_rows };
    const asked = what === 'import' ? act : ask;
    const answer = await asked<LibraryPreview>('POST', `/library/${what}`, body);
    if (what === 'preview') {
      preview.value = answer;
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
  text.value = await file.text();
  input.value = '';
  await send('preview');
}
</script>

<template>
  <section class="file">
    <h1>Limits from a file</h1>
    <p class="muted">
      CSV whose first row names the columns: {{ COLUMNS }}. Or the library as JSON, by its
      <a href="/api/schema/library.json">JSON Schema</a>. A unit may follow each number.
    </p>
    <p class="acts">
      <label class="main-act">
        Choose a file
        <input type="file" accept=".csv,.json,text/csv,application/json" @change="take" />
      </label>
      <span v-if="name">{{ name }}</span>
    </p>
    <label class="paste">
      <span>or paste it here</span>
      <textarea v-model="text" rows="5" spellcheck="false" aria-label="Rows to read" />
    </label>
    <button class="side-act" type="button" :disabled="!text.trim() || busy" @click="send('preview')">
      Look at what would change
    </button>

    <div v-if="wrong" role="alert">
      <p class="wrong">{{ wrong.message }} Nothing was changed.</p>
      <ul>
        <li v-for="problem in wrong.fields" :key="problem.field + problem.message">
          <strong>{{ problem.field }}</strong>: {{ problem.message }}
        </li>
      </ul>
    </div>

    <div v-if="preview" class="preview" role="status">
      <dl class="counts">
        <div>
          <dt>new</dt>
          <dd>{{ preview.adds }}</dd>
        </div>
        <div>
          <dt>revised</dt>
          <dd>{{ preview.revises }}</dd>
        </div>
        <div>
          <dt>the same</dt>
          <dd>{{ preview.same }}</dd>
        </div>
        <div :class="{ bad: preview.bad_rows }">
          <dt>cannot be read</dt>
          <dd>{{ preview.bad_rows }}</dd>
        </div>
      </dl>
      <p class="acts">
        <button
          v-if="preview.adds + preview.revises > 0"
          class="main-act"
          type="button"
          :disabled="busy"
          @click="send('import', preview.bad_rows > 0)"
        >
          {{
            preview.bad_rows
              ? `Take ${preview.adds + preview.revises} in, leave ${preview.bad_rows} bad rows out`
              : `Approve and take ${preview.adds + preview.revises} in`
          }}
        </button>
        <span v-else class="muted">Nothing would change.</span>
      </p>
      <template v-if="preview.problems.length">
        <h2>Rows that cannot be read</h2>
        <ul class="problems">
          <li v-for="(problem, i) in preview.problems" :key="i">
            <strong>Row {{ problem.row }}</strong> <span class="cell">{{ problem.field }}</span>
            {{ problem.message }}
          </li>
        </ul>
      </template>
      <template v-if="preview.changes.length">
        <h2>What would change</h2>
        <ul class="changes">
          <li v-for="(change, i) in preview.changes" :key="i">
            <span class="what" :class="change.change">{{
              change.change === 'adds' ? 'new' : 'revised'
            }}</span>
            <strong>{{ change.title }}</strong><span v-if="change.new_family" class="muted small">
              (a new family)</span
            >
            {{ change.after }}
            <span v-if="change.before" class="muted small">instead of {{ change.before }}</span>
          </li>
        </ul>
      </template>
    </div>
    <p v-if="done" class="done" role="status">
      {{ done.adds }} new and {{ done.revises }} revised are in the library<template v-if="done.bad_rows"
        >; {{ done.bad_rows }} rows were left out</template
      >. Older tests keep the limits that they were judged by.
    </p>
  </section>
</template>

<style scoped>
.file,
.preview {
  display: grid;
  gap: 12px;
  max-width: 760px;
  justify-items: start;
}
.preview {
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
.counts {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  width: 100%;
  margin: 0;
  border-top: 2px solid var(--ink);
}
.counts > div {
  padding: 6px 0;
  display: flex;
  flex-direction: column-reverse;
}
dd {
  margin: 0;
  font-size: 2.2rem;
  font-weight: 700;
  line-height: 1.1;
}
.bad {
  color: var(--too-much);
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
.cell {
  border: 1px solid var(--edge);
  border-radius: 4px;
  padding: 0 6px;
  margin: 0 4px;
}
.what {
  display: inline-block;
  min-width: 70px;
  color: var(--act);
  font-weight: 700;
}
.what.revises {
  color: var(--look);
}
.done {
  border-left: 6px solid var(--inside);
  padding: 6px 14px;
  font-size: 1.1rem;
}
</style>
