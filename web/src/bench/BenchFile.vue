<script setup lang="ts">
import { ref } from 'vue';
import { useQueryClient } from '@tanstack/vue-query';
import { ask, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { BenchFileView, Column } from '@/api/types';
import { newId } from '@/domain/identity';
import PlainDialog from '@/shell/PlainDialog.vue';
import { COLUMN } from '@/words';
import { useSession } from './useSession';

/** Readings from a file: looked at first, with what each column means; then all of it or nothing. */
const emit = defineEmits<{ close: [] }>();
const session = useSession();
const cache = useQueryClient();
const name = ref('');
const text = ref('');
const seen = ref<BenchFileView>();
const wrong = ref('');
const busy = ref(false);
const id = ref(newId());
const MEANINGS = Object.entries(COLUMN) as [Column, string][];

async function look(columns: Column[], take: boolean) {
  busy.value = true;
  try {
    const body = {
      id: id.value,
      round: session.round.value!.id,
      name: name.value,
      text: text.value,
      columns,
      take,
    };
    const asked = { params: { path: { session: session.id.value } }, body };
    seen.value = await (take ? act : ask)('post', '/api/bench/{session}/files', asked);
    wrong.value = '';
    if (seen.value.session) {
      cache.setQueryData(['bench', session.id.value], seen.value.session);
      emit('close');
    }
  } catch (error) {
    wrong.value = refusal(error).fields[0]?.message ?? refusal(error).message;
  }
  busy.value = false;
}
async function choose(event: Event) {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  if (!file) return;
  name.value = file.name;
  text.value = await file.text();
  id.value = newId();
  input.value = '';
  await look([], false);
}
function mean(at: number, column: string) {
  const columns = [...seen.value!.columns];
  columns[at] = column as Column;
  void look(columns, false);
}
</script>

<template>
  <PlainDialog title="Import readings from a file" @close="emit('close')">
    <p class="muted">
      A table with a heading. One column names the injector, one the point. Rows of the same injector at the
      same point become one reading: their mean, with their count and scatter.
    </p>
    <label class="main-act file">
      Choose file
      <input type="file" accept=".csv,.txt,text/csv" @change="choose" />
    </label>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <template v-if="seen">
      <p>
        <strong>{{ name }}</strong>: {{ seen.rows }} rows<template v-if="seen.readings"
          >, {{ seen.readings }} readings</template
        ><template v-if="seen.corrects">; {{ seen.corrects }} correct existing ones</template>.
        <span v-if="seen.remembered" class="muted">Columns as last time.</span>
      </p>
      <div class="columns">
        <label v-for="(heading, at) in seen.headings" :key="at">
          <span>{{ heading || `column ${at + 1}` }}</span>
          <select
            :value="seen.columns[at]"
            :aria-label="`${heading} is`"
            @change="mean(at, ($event.target as HTMLSelectElement).value)"
          >
            <option v-for="[value, word] in MEANINGS" :key="value" :value="value">{{ word }}</option>
          </select>
        </label>
      </div>
      <p v-if="seen.refused" class="wrong" role="alert">{{ seen.refused }}</p>
      <div v-if="seen.problems.length" role="alert">
        <p class="wrong">{{ seen.problem_count }} lines cannot be read. Nothing is imported until fixed.</p>
        <ul>
          <li v-for="problem in seen.problems.slice(0, 8)" :key="problem.line">
            Line {{ problem.line }}: {{ problem.message }}
          </li>
        </ul>
      </div>
      <button
        class="main-act"
        type="button"
        :disabled="busy || !seen.readings || !!seen.problems.length"
        @click="look(seen!.columns, true)"
      >
        Import {{ seen.readings }} readings
      </button>
    </template>
  </PlainDialog>
</template>

<style scoped>
.file {
  justify-self: start;
  align-self: start;
}
.file input {
  position: absolute;
  opacity: 0;
  width: 1px;
}
.columns {
  display: grid;
  grid-template-columns: repeat(2, 1fr);
  gap: 6px 14px;
}
.columns label {
  display: grid;
  grid-template-columns: 1fr 130px;
  align-items: center;
  gap: 8px;
}
select {
  min-height: 46px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  color: inherit;
  font: inherit;
}
ul {
  margin: 4px 0;
  padding-left: 18px;
}
</style>
