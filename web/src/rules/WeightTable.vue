<script setup lang="ts">
import { computed, ref } from 'vue';
import type { WeightsRecord } from '@/api/types';
import { refusal } from '@/api/client';
import { act } from '@/api/outbox';
import TypedField from '@/shell/TypedField.vue';

/** Every row of the weights: found by any word, changed with a reason. */
const props = defineProps<{ record: WeightsRecord }>();
const emit = defineEmits<{ kept: [record: WeightsRecord] }>();
type Row = WeightsRecord['rows'][number];
const typed = ref('');
const id = (row: Row) => row.key.join('/');
const found = computed(() => {
  const words = typed.value.toLowerCase().split(/\s+/).filter(Boolean);
  const text = (row: Row) =>
    `${row.group} ${row.word} ${row.reason} ${row.cells.map((one) => one.word).join(' ')} ${row.own ? 'own' : ''}`.toLowerCase();
  return props.record.rows.filter((row) => words.every((word) => text(row).includes(word)));
});
const groups = computed(() => {
  const groups = new Map<string, Row[]>();
  for (const row of found.value) groups.set(row.group, [...(groups.get(row.group) ?? []), row]);
  return [...groups];
});
const open = ref('');
const values = ref<string[]>([]);
const reason = ref('');
const wrong = ref('');
function edit(row: Row) {
  open.value = open.value === id(row) ? '' : id(row);
  values.value = row.cells.map((one) => String(one.value));
  reason.value = '';
  wrong.value = '';
}
async function keep(row: Row) {
  try {
    const body = {
      revision: props.record.revision,
      key: row.key,
      values: values.value,
      reason: reason.value,
    };
    emit('kept', await act('put', '/api/weights/row', { body }));
    open.value = '';
  } catch (error) {
    const told = refusal(error);
    wrong.value = told.fields.map((one) => one.message).join(' ') || told.message;
  }
}
</script>

<template>
  <section class="weights">
    <input v-model="typed" type="search" placeholder="cause, check, reason" aria-label="Find weights" />
    <p v-if="!found.length" class="muted">No matching row.</p>
    <section v-for="[group, rows] in groups" :key="group">
      <h2>{{ group }}</h2>
      <div v-for="row in rows" :key="id(row)" class="line" :class="{ own: row.own }">
        <button type="button" :aria-expanded="open === id(row)" @click="edit(row)">
          <strong>{{ row.word }}</strong>
          <span class="cells">
            <span v-for="one in row.cells" :key="one.name"
              ><em>{{ one.word }}</em> {{ row.unit === '×' ? `× ${one.value}` : `${one.value} %` }}</span
            >
          </span>
          <span class="muted small">{{ row.own ? 'this workshop: ' : '' }}{{ row.reason }}</span>
        </button>
        <form v-if="open === id(row)" @submit.prevent="keep(row)">
          <TypedField
            v-for="(one, i) in row.cells"
            :key="one.name"
            v-model="values[i]!"
            :name="`${id(row)}-${one.name}`"
            :word="one.word"
            :unit="row.unit"
          />
          <TypedField v-model="reason" wide :name="`${id(row)}-reason`" word="Workshop’s reason" />
          <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
          <button class="main-act" type="submit">Save as new revision</button>
        </form>
      </div>
    </section>
  </section>
</template>

<style scoped>
.weights {
  display: grid;
  gap: 12px;
}
input[type='search'] {
  min-height: 46px;
  width: min(420px, 100%);
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 12px;
}
.line {
  border-top: 1px solid var(--line);
  background: var(--sheet);
}
.line.own {
  border-left: 6px solid var(--act);
}
.line > button {
  width: 100%;
  min-height: 52px;
  padding: 8px 14px;
  border: 0;
  background: none;
  color: inherit;
  text-align: left;
  cursor: pointer;
  display: grid;
  grid-template-columns: minmax(150px, 0.7fr) minmax(0, 1.6fr) minmax(0, 1.4fr);
  gap: 4px 16px;
  align-items: start;
}
.cells {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
}
em {
  font-style: normal;
  color: var(--muted);
}
form {
  display: grid;
  gap: 8px;
  justify-items: start;
  max-width: 620px;
  padding: 8px 14px 16px;
}
form > * {
  width: 100%;
}
form > .main-act {
  width: auto;
}
@media (max-width: 900px) {
  .line > button {
    grid-template-columns: 1fr;
  }
}
</style>
