<script setup lang="ts">
import { computed } from 'vue';
import type { CellForm, SheetForm } from '@/api/types';
import CellInput from '@/entry/CellInput.vue';
import { pastedColumn } from '@/entry/pastedColumn';
import StripRow from '@/strip/StripRow.vue';
import ChoiceCell from './ChoiceCell.vue';
import { byHand, byInstrument } from '@/connections/words';
import type { SheetHandle, SheetSpot } from './useSheet';

/** The cells of each cylinder, a row for each kind; what was refused stands below. */
const props = defineProps<{ sheet: SheetHandle; form: SheetForm; rows: CellForm[]; order: number[] }>();
const emit = defineEmits<{ next: [event: KeyboardEvent]; touched: [spot: SheetSpot] }>();
const cells = props.sheet.cells;
const of = (cell: CellForm, cylinder: number) => ({ cell: cell.name, cylinder });
const refused = computed(() =>
  props.order.flatMap((cylinder) =>
    props.form.each.flatMap((cell) => {
      const says = cells.wrong[cells.name(of(cell, cylinder))];
      return says ? [`Cylinder ${cylinder}: ${says}`] : [];
    }),
  ),
);
/** Under a column there is room for a word. */
const byShort = (name: string) => (name === byHand ? name : byInstrument);
/** Fills the row with the answer that a sound injector gives, where nothing is said yet. */
function allSound(cell: CellForm) {
  for (const cylinder of props.order)
    if (cells.text(of(cell, cylinder)) === '') void cells.say(of(cell, cylinder), String(cell.sound));
}
/** A column pasted into a cell fills the cells of the following cylinders too. */
function paste(event: ClipboardEvent, cell: CellForm, cylinder: number) {
  const from = props.order.indexOf(cylinder);
  pastedColumn(event).forEach((value, i) => {
    const to = props.order[from + i];
    if (to !== undefined) void cells.say(of(cell, to), value);
  });
}
</script>

<template>
  <StripRow v-for="cell in rows" :key="cell.name" :word="cell.word">
    <template v-if="cell.sound != null" #gutter>
      <button class="all" type="button" @click="allSound(cell)">
        <span class="muted small">{{ cell.word }}</span>
        all {{ cell.choices[cell.sound] }}
      </button>
    </template>
    <template #default="{ cylinder }">
      <ChoiceCell
        v-if="cell.choices.length"
        :word="cell.word"
        :choices="cell.choices"
        :cylinder="cylinder"
        :value="cells.text(of(cell, cylinder))"
        @chose="cells.say(of(cell, cylinder), $event)"
      />
      <template v-else>
        <CellInput
          data-cell
          :data-of="cylinder"
          class="entry"
          :aria-label="`${cell.word} of cylinder ${cylinder}`"
          :cells="cells"
          :spot="of(cell, cylinder)"
          @keydown.enter.prevent="emit('next', $event)"
          @paste="paste($event, cell, cylinder)"
          @focusin="emit('touched', of(cell, cylinder))"
        />
        <span v-if="sheet.was(of(cell, cylinder))" class="by">was {{ sheet.was(of(cell, cylinder)) }}</span>
        <span v-if="sheet.readBy(of(cell, cylinder))" class="by" :title="sheet.readBy(of(cell, cylinder))">{{
          byShort(sheet.readBy(of(cell, cylinder)))
        }}</span>
      </template>
    </template>
    <template #tail
      ><span class="muted small">{{ cell.unit }}</span></template
    >
  </StripRow>
  <p v-for="says in refused" :key="says" class="wrong" role="alert">{{ says }}</p>
</template>

<style scoped>
.all {
  min-height: 44px;
  border: 0;
  background: none;
  padding: 0;
  cursor: pointer;
  color: var(--act);
  font-size: 0.78rem;
  line-height: 1.15;
  text-align: right;
}
.all .muted {
  display: block;
  color: var(--ink);
}
/* Where an instrument reads, what a person read is marked as that. */
.by {
  display: block;
  text-align: center;
  font-size: 0.74rem;
  color: var(--muted);
  line-height: 1;
  margin-top: -2px;
}
input.entry {
  display: block;
  width: calc(100% - 12px);
  margin: 5px 6px;
  text-align: center;
  font-size: clamp(0.95rem, calc(20 * var(--cell)), 1.35rem);
  padding: 0 2px;
}
</style>
