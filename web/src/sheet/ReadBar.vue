<script setup lang="ts">
import { useStorage } from '@vueuse/core';
import { computed, ref } from 'vue';
import { ask, refusal } from '@/api/client';
import type { CellForm, SheetForm } from '@/api/types';
import { useConnections } from '@/connections/useConnections';
import { useKeys } from '@/shell/useKeys';
import { QUANTITY } from '@/words';
import type { SheetHandle, SheetSpot } from './useSheet';
import { takeReading, takeReadingOf } from './words';

/** An instrument in place of typing: reads into the field that was touched last, or the first empty one. */
const props = defineProps<{ sheet: SheetHandle; form: SheetForm; order: number[]; touched?: SheetSpot }>();
const emit = defineEmits<{ next: [spot: SheetSpot | undefined] }>();
const { all } = useConnections();

const cellOf = (spot: SheetSpot): CellForm | undefined =>
  (spot.cylinder === null ? props.form.set : props.form.each).find((one) => one.name === spot.cell);
/** As they are read: one cylinder after the other, its start before its end. */
const spots = computed<SheetSpot[]>(() => {
  const shown = (cells: CellForm[]) => cells.filter((cell) => cell.shown_by && !cell.more);
  return [
    ...props.order.flatMap((cylinder) =>
      shown(props.form.each).map((cell) => ({ cell: cell.name, cylinder })),
    ),
    ...shown(props.form.set).map((cell) => ({ cell: cell.name, cylinder: null })),
  ];
});
const empty = (spot: SheetSpot) => props.sheet.cells.text(spot) === '';
const spot = computed(() => {
  if (props.touched && cellOf(props.touched)?.shown_by) return props.touched;
  return spots.value.find(empty) ?? spots.value[0];
});
const quantity = computed(() => (spot.value ? cellOf(spot.value)?.shown_by : undefined));
/** A bench stands on its own: it reads no engine. */
const listed = computed(() => all.value.filter((one) => !one.bench));
const able = computed(() =>
  listed.value.filter((one) => quantity.value && one.measures.includes(quantity.value)),
);
/** The main act only where a column waits for it. */
const waits = computed(() => !!spot.value && spot.value.cylinder !== null && empty(spot.value));
const kept = useStorage<Record<string, string>>('read-with', {});
const chosen = computed(
  () => able.value.find((one) => one.connection.id === kept.value[quantity.value ?? '']) ?? able.value[0],
);
const any = computed(() =>
  spots.value.some((one) => {
    const shows = cellOf(one)?.shown_by;
    return shows && listed.value.some((held) => held.measures.includes(shows));
  }),
);
const wrong = ref('');
const busy = ref(false);

async function take() {
  const [at, by, of] = [spot.value, chosen.value, quantity.value];
  if (!at || !by || !of || busy.value) return;
  busy.value = true;
  try {
    const shown = await ask('post', '/api/connections/{connection}/reading', {
      params: { path: { connection: by.connection.id } },
      body: { quantity: of, cylinder: at.cylinder },
    });
    // One value is of the cell; of several the one of its cylinder.
    const typed = shown.typed.length > 1 ? shown.typed[(at.cylinder ?? 1) - 1] : shown.typed[0];
    if (typed === undefined) return;
    await props.sheet.sayShown(at, typed, shown.id);
    wrong.value = '';
    const place = spots.value.findIndex((one) => one.cell === at.cell && one.cylinder === at.cylinder);
    emit('next', spots.value[place + 1]);
  } catch (error) {
    wrong.value = refusal(error).message;
  } finally {
    busy.value = false;
  }
}
useKeys([{ key: 'r', word: takeReading, run: () => void take() }]);
</script>

<template>
  <div v-if="any" class="reads">
    <button :class="waits ? 'main-act' : 'side-act'" type="button" :disabled="!chosen || busy" @click="take">
      Take reading <span class="key">R</span>
    </button>
    <p>
      <template v-if="spot && quantity && chosen">
        <strong>{{ takeReadingOf(cellOf(spot)!.word, spot.cylinder) }}</strong>
        <span class="muted">{{ QUANTITY[quantity].toLowerCase() }} from</span>
      </template>
    </p>
    <select
      v-if="chosen"
      aria-label="Instrument"
      :value="chosen.connection.id"
      @change="kept = { ...kept, [quantity!]: ($event.target as HTMLSelectElement).value }"
    >
      <option v-for="one in able" :key="one.connection.id" :value="one.connection.id">
        {{ one.connection.name }}
      </option>
    </select>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
  </div>
</template>

<style scoped>
.reads p {
  display: grid;
  line-height: 1.2;
}
select {
  min-height: 44px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  color: var(--ink);
  font: inherit;
  padding: 0 8px;
}
</style>
