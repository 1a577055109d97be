<script setup lang="ts">
import { computed } from 'vue';
import type { BenchForm, BenchTest } from '@/api/types';
import CautionList from '@/job/CautionList.vue';
import BenchPad from './BenchPad.vue';
import BenchTimers from './BenchTimers.vue';
import { useSession } from './useSession';
import type { Tubes } from './useTubes';

/** What holds for the round or for a row, and the pad that types into the tubes. */
const props = defineProps<{
  test: BenchTest;
  form: BenchForm;
  tubes: Tubes;
  rows: number;
  filed: boolean;
}>();
const emit = defineEmits<{ row: []; file: [] }>();
const more = defineModel<boolean>('more', { required: true });
const session = useSession();
const folds = computed(() => [...props.form.set, ...props.form.each].some((one) => one.more));
const job = computed(() => session.file.value?.injectors[0]?.job ?? '');
</script>

<template>
  <h2>{{ form.title }}</h2>
  <p v-if="!session.verdict.value" class="muted small">{{ form.says }}</p>
  <CautionList :cautions="form.cautions" :brief="!!session.verdict.value" />
  <p class="links">
    <button v-if="form.most_rows > rows" class="link-act" type="button" @click="emit('row')">
      Add a row
    </button>
    <button v-if="folds" class="link-act" type="button" :aria-expanded="more" @click="more = !more">
      {{ more ? 'Fewer fields' : 'More fields' }}
    </button>
    <button v-if="filed" class="link-act" type="button" @click="emit('file')">
      Import readings <span class="key">F</span>
    </button>
  </p>
  <BenchTimers :test="test" :job="job" />
  <a
    v-if="test === 'supply_offset' && session.verdict.value"
    class="side-act"
    :href="`/api/bench/${session.id.value}/supply.csv`"
    download
    >Export table (CSV)</a
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
.links {
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
}
</style>
