<script setup lang="ts">
import { computed } from 'vue';
import type { BenchForm, BenchTest } from '@/api/types';
import CautionList from '@/job/CautionList.vue';
import BenchPad from './BenchPad.vue';
import BenchTimers from './BenchTimers.vue';
import SetCells from './SetCells.vue';
import { roundWord, useSession } from './useSession';
import type { Tubes } from './useTubes';

/** What holds for the round or for a row, and the pad that types into the tubes. */
const props = defineProps<{
  test: BenchTest;
  form: BenchForm;
  tubes: Tubes;
  at: number | null;
  rows: number;
  filed: boolean;
}>();
const emit = defineEmits<{ row: []; file: [] }>();
const more = defineModel<boolean>('more', { required: true });
const session = useSession();
const set = computed(() => props.form.set.filter((one) => more.value || !one.more));
const folds = computed(() => [...props.form.set, ...props.form.each].some((one) => one.more));
const job = computed(() => session.file.value?.injectors[0]?.job ?? '');
</script>

<template>
  <h2>{{ form.title }}</h2>
  <p v-if="!session.verdict.value" class="muted small">{{ form.says }}</p>
  <CautionList :cautions="form.cautions" :brief="!!session.verdict.value" />
  <button
    v-if="session.before.value && set.length && !session.verdict.value"
    class="side-act"
    type="button"
    @click="session.asBefore"
  >
    Conditions as before, {{ roundWord(session.before.value) }}
  </button>
  <SetCells :forms="set" @next="tubes.next" />
  <SetCells
    v-if="at && form.row.length && !form.by_points"
    :key="at"
    :forms="form.row"
    :row="at"
    @next="tubes.next"
  />
  <details v-else-if="at && form.row.length" class="row-cells">
    <summary>This row: other conditions</summary>
    <SetCells :forms="form.row.filter((one) => one.name !== 'ended')" :row="at" @next="tubes.next" />
  </details>
  <p class="links">
    <button v-if="form.most_rows > rows" class="link-act" type="button" @click="emit('row')">
      One more row
    </button>
    <button v-if="folds" class="link-act" type="button" :aria-expanded="more" @click="more = !more">
      {{ more ? 'Fewer fields' : 'More fields' }}
    </button>
    <button v-if="filed" class="link-act" type="button" @click="emit('file')">
      From a file <span class="key">F</span>
    </button>
  </p>
  <BenchTimers v-if="test === 'cleaning'" :job="job" />
  <a
    v-if="test === 'supply_offset' && session.verdict.value"
    class="side-act"
    :href="`/api/bench/${session.id.value}/supply.csv`"
    download
    >Table as CSV</a
  >
  <BenchPad
    v-if="form.each.some((one) => !one.choices.length && !one.words)"
    :down="tubes.down.value"
    @press="tubes.press"
    @back="tubes.back"
    @next="tubes.next()"
    @turn="tubes.turn"
  />
</template>

<style scoped>
.row-cells summary {
  min-height: 44px;
  cursor: pointer;
  color: var(--act);
}
.links {
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
}
</style>
