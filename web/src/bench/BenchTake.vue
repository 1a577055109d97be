<script setup lang="ts">
import { computed, onScopeDispose, ref, watch } from 'vue';
import { ask, refusal } from '@/api/client';
import type { CellForm } from '@/api/types';
import LiveColumns from '@/connections/LiveColumns.vue';
import { useConnections } from '@/connections/useConnections';
import { useLive } from '@/connections/useLive';
import { QUANTITY } from '@/words';
import { useSession, type Spot } from './useSession';
import { runsOn, takesInto } from './words';

/** A bench in place of typing: it runs the row, its tubes fill here, and they are read into the row. */
const props = defineProps<{ row: number | null }>();
const session = useSession();
const { all } = useConnections();
const KIND = { petrol: 'petrol_bench', diesel: 'diesel_bench', doser: 'doser_bench' } as const;
const benches = computed(() => {
  const kind = KIND[session.file.value?.setup.kind ?? 'petrol'];
  return all.value.filter((one) => one.connection.kind === kind);
});
const bench = computed(() => benches.value[0]);
/** Cells of a tube that the bench can show; of several without rows, the first that is empty. */
const fields = computed(() => {
  const can = (cell: CellForm) => !!cell.shown_by && !!bench.value?.measures.includes(cell.shown_by);
  const shown = (session.form.value?.each ?? []).filter((cell) => can(cell) && !cell.more);
  if (props.row !== null) return shown;
  const empty = (cell: CellForm) =>
    session.tags.value.some((tag) => session.cells.text({ cell: cell.name, row: null, tag }) === '');
  return shown.filter(empty).slice(0, 1);
});
const waiting = ref(false);
const wrong = ref('');
const live = useLive(() => (waiting.value ? bench.value?.connection.id : undefined), { quantity: 'volume' });
const typed = (cell: string) => {
  const at = (row: number | null) => session.cells.text({ cell, row, tag: null });
  return at(props.row) || at(null);
};
const point = computed(() => session.file.value?.setup.points[(props.row ?? 0) - 1]);
const named = computed(() => point.value?.name || (props.row === null ? '' : `row ${props.row}`));
/** As typed, else as the plan has it, in the unit that the bench is told in. */
const asked = (cell: string, planned: number | null | undefined) =>
  typed(cell) || (planned == null ? '' : String(planned));
let again: ReturnType<typeof setTimeout> | undefined;
onScopeDispose(() => clearTimeout(again));
watch(
  () => props.row,
  () => {
    clearTimeout(again);
    waiting.value = false;
  },
);

async function run() {
  wrong.value = '';
  const path = { connection: bench.value!.connection.id };
  try {
    await ask('post', '/api/connections/{connection}/run', {
      params: { path },
      body: {
        pulse: asked('pulse', point.value?.pulse_ms),
        count: asked('count', point.value?.count),
        pressure: asked('pressure', point.value?.rail_kpa),
      },
    });
    waiting.value = true;
    again = setTimeout(() => void take(true), 1000);
  } catch (error) {
    const said = refusal(error);
    wrong.value = said.fields[0]?.message ?? said.message;
  }
}
/** Reads every tube into the row; while the bench runs it is asked again. */
async function take(wait = false) {
  const path = { connection: bench.value!.connection.id };
  try {
    for (const field of fields.value) {
      const quantity = field.shown_by!;
      const body = { quantity, cylinder: null };
      const came = await ask('post', '/api/connections/{connection}/reading', { params: { path }, body });
      session.tags.value.forEach((tag, i) => {
        const spot: Spot = { cell: field.name, row: props.row, tag };
        const says = came.typed[i];
        if (says !== undefined) void session.sayShown(spot, says, came.id);
      });
    }
    [waiting.value, wrong.value] = [false, ''];
  } catch (error) {
    const said = refusal(error);
    if (wait && said.code === 'running') again = setTimeout(() => void take(true), 1000);
    else [waiting.value, wrong.value] = [false, said.message];
  }
}
</script>

<template>
  <div v-if="bench && fields.length" class="reads">
    <button class="side-act" type="button" :disabled="waiting" @click="run">
      {{ waiting ? 'Running' : runsOn(bench.connection.name) }}
    </button>
    <button class="side-act" type="button" :disabled="waiting" @click="take()">Take readings</button>
    <span class="muted">{{
      takesInto(named, fields.map((one) => QUANTITY[one.shown_by!].toLowerCase()).join(', '))
    }}</span>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <LiveColumns v-if="waiting" :look="live.look.value" />
  </div>
</template>

<style scoped>
.reads > :deep(.live) {
  flex-basis: 100%;
}
</style>
