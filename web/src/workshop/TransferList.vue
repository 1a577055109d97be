<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import { ask, refusal, type Refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { TransferView, TransferWhat } from '@/api/types';
import { newId } from '@/domain/identity';
import { usePeople } from '@/shell/usePeople';
import { cameIn, refusedSays, size, stage, TRANSFERS, wholeOrNot } from './words';

/** The whole workshop in and out, in the background: each at work with how far it is, what is over with what
 * came of it. */
const cache = useQueryClient();
const people = usePeople();
const runs = ({ state }: TransferView) => ['checking', 'importing', 'exporting'].includes(state);
const query = useQuery({
  queryKey: ['transfers'],
  queryFn: () => ask('get', '/api/workshop/transfers'),
  refetchInterval: ({ state }) => (state.data?.some(runs) ? 500 : false),
});
const list = computed(() => query.data.value ?? []);
const wrong = ref<Refusal>();
const sending = ref(false);
// What came in shows at once, whoever let it in.
watch(
  () => list.value.filter((one) => one.imported).length,
  () => void people.again(),
);

async function doing(what: () => Promise<unknown>) {
  wrong.value = undefined;
  try {
    await what();
  } catch (error) {
    wrong.value = refusal(error);
  }
  await cache.invalidateQueries({ queryKey: ['transfers'] });
}
const take = (what: TransferWhat) =>
  doing(() => ask('post', '/api/workshop/exports', { body: { id: newId(), what } }));
const stop = (transfer: string) =>
  doing(() => ask('post', '/api/workshop/transfers/{transfer}/stop', { params: { path: { transfer } } }));
async function bring(event: Event) {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  if (!file) return;
  sending.value = true;
  await doing(async () => act('post', '/api/workshop/imports', { body: await file.text() }));
  [input.value, sending.value] = ['', false];
}
</script>

<template>
  <section>
    <h1>The whole workshop</h1>
    <p class="muted">
      {{ wholeOrNot }} A line is described by the <a href="/api/schema/workshop-line.json">JSON Schema</a>.
    </p>
    <button class="side-act" type="button" @click="take('workshop')">Export workshop</button>
    <button class="side-act" type="button" @click="take('readings')">Export all readings (CSV)</button>
    <label class="side-act">
      {{ sending ? 'Sending file…' : 'Import workshop file' }}
      <input type="file" accept=".jsonl,application/jsonl" :disabled="sending" @change="bring" />
    </label>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong.message }}</p>
    <ul aria-live="polite">
      <li v-for="one in list" :key="one.id" :class="one.state">
        <strong>{{ TRANSFERS[one.what] }}</strong>
        <span>{{ stage(one.state) }}</span>
        <template v-if="runs(one)">
          <progress :value="one.done" :aria-label="TRANSFERS[one.what]" />
          <button v-if="one.state !== 'importing'" class="side-act" type="button" @click="stop(one.id)">
            Cancel {{ one.what === 'import' ? 'import' : 'export' }}
          </button>
        </template>
        <a
          v-else-if="one.bytes !== null && one.bytes !== undefined"
          class="main-act"
          :href="`/api/workshop/transfers/${one.id}/file`"
          download
        >
          Save file, {{ size(one.bytes) }}
        </a>
        <p v-if="one.imported">{{ cameIn(one.imported) }}</p>
        <p v-if="one.problem" class="wrong">{{ refusedSays(one) }}</p>
        <ul v-if="one.fields.length || one.imported?.left_out.length" class="small">
          <li
            v-for="each in [...one.fields, ...(one.imported?.left_out ?? [])]"
            :key="each.field + each.message"
          >
            <strong>{{ each.field }}</strong>: {{ each.message }}
          </li>
        </ul>
      </li>
    </ul>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 12px;
  align-content: start;
  justify-items: start;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  width: 100%;
}
section > ul > li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 12px;
  padding: 8px 0 8px 12px;
  border-left: 6px solid var(--line);
  margin-bottom: 8px;
}
section > ul > li.done {
  border-color: var(--inside);
}
section > ul > li.refused {
  border-color: var(--too-much);
}
progress {
  flex: 1 1 120px;
  height: 14px;
  accent-color: var(--act);
}
li p {
  flex-basis: 100%;
  margin: 0;
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
