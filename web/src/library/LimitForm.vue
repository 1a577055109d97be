<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query';
import { computed, reactive, ref } from 'vue';
import { Refusal, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { LibraryFamily, LimitCheck } from '@/api/types';
import TypedField from '@/shell/TypedField.vue';
import { LIMIT_CHECK, LIMIT_UNIT } from '@/words';
import { useUnits } from '@/shell/useUnits';

/** One limit as typed: a row like those of a file, kept as a new revision. */
const props = defineProps<{ family: LibraryFamily }>();
const emit = defineEmits<{ done: [] }>();
const cache = useQueryClient();
const row = reactive({
  check: 'return_flow' as LimitCheck,
  condition: '',
  lower: '',
  upper: '',
  from_c: '',
  to_c: '',
  from_kpa: '',
  to_kpa: '',
  source: '',
});
const { unit } = useUnits();
const wrong = ref<Refusal>();
const fields = computed(
  () =>
    [
      { name: 'lower', word: 'Minimum', unit: LIMIT_UNIT[row.check] },
      { name: 'upper', word: 'Maximum', unit: LIMIT_UNIT[row.check] },
      { name: 'from_c', word: 'Valid from', unit: '°C' },
      { name: 'to_c', word: 'Valid to', unit: '°C' },
      { name: 'from_kpa', word: 'Pressure from', unit: 'kPa' },
      { name: 'to_kpa', word: 'Pressure to', unit: 'kPa' },
    ] as const,
);
const quoted = (cell: string) => `"${cell.replaceAll('"', '""')}"`;
const about = (name: string) => wrong.value?.about(`row 2, ${name}`);

async function keep() {
  // A file is canonical: a bare number takes the unit with it that stands beside its field.
  const spelled = fields.value.map(({ name, unit: of }) => {
    const text = row[name].trim();
    return [name as string, /\d$/.test(text) ? `${text} ${unit(of)}`.trim() : text];
  });
  const cells: Record<string, string> = { family: props.family.name, ...row, ...Object.fromEntries(spelled) };
  const text = `${Object.keys(cells).join(',')}\n${Object.values(cells).map(quoted).join(',')}\n`;
  try {
    await act('post', '/api/library/import', { body: { format: 'csv', text } });
    await cache.invalidateQueries({ queryKey: ['library'] });
    void cache.invalidateQueries({ queryKey: ['families'] });
    emit('done');
  } catch (error) {
    wrong.value = refusal(error);
  }
}
</script>

<template>
  <form class="form" @submit.prevent="keep">
    <label class="check">
      Check
      <select v-model="row.check">
        <option v-for="(word, check) in LIMIT_CHECK" :key="check" :value="check">{{ word }}</option>
      </select>
    </label>
    <TypedField
      v-model="row.condition"
      name="condition"
      word="Condition, in words"
      wide
      :wrong="about('condition')"
    />
    <div class="pairs">
      <TypedField
        v-for="field in fields"
        :key="field.name"
        v-model="row[field.name]"
        :name="field.name"
        :word="field.word"
        :unit="field.unit"
        :wrong="about(field.name)"
      />
    </div>
    <TypedField v-model="row.source" name="source" word="Source" wide :wrong="about('source')" />
    <p class="muted small">
      A unit may follow each number. You approve it with your signature; older tests keep the revision that
      they were assessed by.
    </p>
    <p v-if="wrong && !wrong.fields.length" class="wrong" role="alert">{{ wrong.message }}</p>
    <button class="main-act" type="submit">Approve limit</button>
  </form>
</template>

<style scoped>
.form {
  display: grid;
  gap: 10px;
  border-left: 6px solid var(--act);
  padding: 6px 0 10px 16px;
}
.pairs {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 24px;
}
.check {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
select {
  min-height: 46px;
  font: inherit;
  color: inherit;
  background: var(--sheet);
  border: 2px solid var(--edge);
  border-radius: 6px;
  padding: 0 10px;
}
@media (max-width: 800px) {
  .pairs {
    grid-template-columns: 1fr;
  }
}
</style>
