<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed } from 'vue';
import { ask } from '@/api/client';
import type { CellForm, SheetForm } from '@/api/types';
import CellInput from '@/entry/CellInput.vue';
import PresetBar from '@/entry/PresetBar.vue';
import CautionList from '@/job/CautionList.vue';
import StartTicks from '@/job/StartTicks.vue';
import type { SheetHandle } from './useSheet';

/** What holds for the whole set: instrument, start conditions, cells of the set. */
const props = defineProps<{ sheet: SheetHandle; form: SheetForm; asked: CellForm[] }>();
const emit = defineEmits<{ next: [event: KeyboardEvent] }>();
const more = defineModel<boolean>('more', { required: true });
const { cells, instrument } = props.sheet;
const of = (cell: CellForm) => ({ cell: cell.name, cylinder: null });

const instruments = useQuery({
  queryKey: ['instruments'],
  queryFn: () => ask('get', '/api/instruments'),
});
const suited = computed(() =>
  (instruments.data.value ?? []).filter((one) => one.instrument.kind === props.form.instrument),
);
const folds = computed(() => [...props.form.set, ...props.form.each].some((one) => one.more));
</script>

<template>
  <h2>{{ form.title }}</h2>
  <p class="muted small">{{ form.says }}</p>
  <CautionList
    v-if="form.each.length"
    :cautions="form.cautions"
    :brief="!!sheet.record.value?.readings.length"
  />
  <label v-if="suited.length && !sheet.record.value" class="pick">
    Measured with
    <select id="instrument" v-model="instrument">
      <option value="">not listed</option>
      <option v-for="one in suited" :key="one.instrument.id" :value="one.instrument.id">
        {{ one.instrument.name }}{{ one.overdue ? ', overdue' : '' }}
      </option>
    </select>
  </label>
  <p v-else-if="sheet.record.value?.instrument" class="small">
    Measured with <strong>{{ sheet.record.value.instrument.name }}</strong>
  </p>
  <StartTicks
    :conditions="form.start"
    :ticked="sheet.ticked.value"
    @turn="(id, on) => cells.say({ cell: `start_${id}`, cylinder: null }, on ? '1' : '0')"
  />
  <PresetBar
    :check="form.id"
    :cells="form.set"
    :text="(cell) => cells.text({ cell, cylinder: null })"
    @say="(cell, typed) => cells.say({ cell, cylinder: null }, typed)"
  />
  <div v-for="cell in asked" :key="cell.name" class="set">
    <label :for="`set-${cell.name}`">{{ cell.word }}</label>
    <select
      v-if="cell.choices.length"
      :id="`set-${cell.name}`"
      data-cell
      :value="cells.text(of(cell))"
      @change="cells.say(of(cell), ($event.target as HTMLSelectElement).value)"
    >
      <option value="">not stated</option>
      <option v-for="(word, i) in cell.choices" :key="word" :value="String(i)">{{ word }}</option>
    </select>
    <CellInput
      v-else
      :id="`set-${cell.name}`"
      data-cell
      :cells="cells"
      :spot="of(cell)"
      @keydown.enter.prevent="emit('next', $event)"
    />
    <span class="muted small">{{ cell.unit }}</span>
    <span v-if="!cell.choices.length && sheet.was(of(cell))" class="muted small was"
      >was {{ sheet.was(of(cell)) }}</span
    >
    <span v-if="cells.wrong[cells.name(of(cell))]" class="wrong small" role="alert">{{
      cells.wrong[cells.name(of(cell))]
    }}</span>
  </div>
  <button v-if="folds" class="link-act" type="button" :aria-expanded="more" @click="more = !more">
    {{ more ? 'Hide extra fields' : 'Show more fields' }}
  </button>
  <button v-if="sheet.record.value" class="link-act" type="button" @click="sheet.startAnew()">
    Start a new set
  </button>
  <button v-else-if="sheet.anew.value" class="link-act" type="button" @click="sheet.cancelAnew()">
    Cancel new set
  </button>
</template>

<style scoped>
.set {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 86px 34px;
  gap: 0 8px;
  align-items: center;
}
.set .was,
.set .wrong {
  grid-column: 1 / -1;
}
.pick {
  display: grid;
  gap: 2px;
}
.pick select {
  min-height: 46px;
}
</style>
