<script setup lang="ts">
import { computed } from 'vue';
import type { CellForm } from '@/api/types';
import CellInput from '@/entry/CellInput.vue';
import ChoiceCell from '@/sheet/ChoiceCell.vue';
import StripRow from '@/strip/StripRow.vue';
import RowTail from './RowTail.vue';
import TubeCell from './TubeCell.vue';
import { useSession, type DrawnLane, type Spot } from './useSession';

/**
 * The readings of a test: regimes or points as rows, injectors as columns. Each cell is a tube: what
 * was typed, the mark beside it, and how full it stands against the row.
 */
const props = defineProps<{ rows: number[]; more: boolean; at: number | null }>();
const emit = defineEmits<{
  next: [event: KeyboardEvent];
  row: [row: number];
  pasted: [event: ClipboardEvent, spot: Spot];
}>();
const session = useSession();
const form = computed(() => session.form.value!);
const each = computed(() => form.value.each.filter((cell) => props.more || !cell.more));
/** Rows as they are drawn: each tube with its mark and with how full it stands against its row. */
const byRow = computed(
  () =>
    new Map(
      (session.verdict.value?.rows ?? []).map((one) => {
        const values = one.lanes.map((lane) => lane.value ?? 0);
        const top = Math.max(...values, one.window?.[1] ?? 0) * 1.1 || 1;
        const height = (value: number) => `${Math.min(100, Math.max(0, (value / top) * 100))}%`;
        const lanes = one.lanes.map((lane): [number, DrawnLane] => [
          lane.place,
          {
            mark: lane.mark,
            height: lane.value == null ? undefined : height(lane.value),
            // What is typed is a volume; what is compared is a quantity of one pulse or stroke.
            says: one.unit !== each.value[0]?.unit && lane.shown ? lane.shown : '',
          },
        ]);
        return [
          one.row,
          { name: one.name, unit: one.unit, grade: one.grade, says: one.says, of: new Map(lanes) },
        ];
      }),
    ),
);
const drawn = (row: number) => byRow.value.get(row);
const laneOf = (row: number, tag: number) => drawn(row)?.of.get(tag);
/** What each row asks for, as text: an entry that changes none of it draws no tube anew. */
const asks = computed(() => {
  const narrowed = form.value.test === 'map' && !props.more;
  const asked = (row: number) => (narrowed ? session.view.value!.asks[row - 1] : undefined) ?? null;
  return JSON.stringify(props.rows.map((row) => [row, asked(row)]));
});
/** Fields of the tubes of each row: a row of a map has what its windows are about; the rest on demand. */
const fields = computed(() => {
  const rows = JSON.parse(asks.value) as [number, string[] | null][];
  const asked = (names: string[] | null) =>
    names ? form.value.each.filter((cell) => names.includes(cell.name)) : each.value;
  return new Map(rows.map(([row, names]) => [row, asked(names)]));
});
const names = computed(() => new Map(props.rows.map((row) => [row, name(row)])));
const name = (row: number) => {
  const point = session.file.value!.setup.points[row - 1];
  if (form.value.by_points) return point?.name ?? String(row);
  return drawn(row)?.name || `row ${row}`;
};
const spot = (cell: CellForm, row: number | null, tag: number): Spot => ({ cell: cell.name, row, tag });
/** Fills the row with the answer that a sound injector gives, where nothing is said yet. */
function allSound(cell: CellForm) {
  for (const tag of session.tags.value) {
    const at = spot(cell, null, tag);
    if (session.cells.text(at) === '') void session.cells.say(at, String(cell.sound));
  }
}
/** Width and count of a row, before anything is read in it as after. */
const told = (row: number) =>
  form.value.row
    .filter((cell) => cell.name !== 'ended')
    .map((cell) => [session.cells.text({ cell: cell.name, row, tag: null }), cell.unit])
    .filter(([text]) => text)
    .map((one) => one.join(' ').trim())
    .filter((says) => !name(row).includes(says))
    .join(' × ');
const conditions = (row: number) => {
  const point = session.file.value!.setup.points[row - 1];
  if (!form.value.by_points) return told(row);
  if (!point) return '';
  const typed = (cell: string, kept: number | null | undefined) =>
    session.cells.text({ cell, row, tag: null }) || (kept == null ? '' : String(kept));
  const said = session.view.value?.points[row - 1]?.rail;
  return said
    ? `${said}${point.pulse_ms ? `, ${point.pulse_ms} ms` : ', standing'}`
    : [
        typed('pulse', point.pulse_ms) && `${typed('pulse', point.pulse_ms)} ms`,
        typed('count', point.count)
          ? `× ${typed('count', point.count)}`
          : `${typed('seconds', point.seconds)} s`,
      ]
        .filter(Boolean)
        .join(' ');
};
/** What is typed, and what it comes to where that is another unit. */
const units = (row: number) => {
  const typed = each.value[0]?.unit ?? '';
  const comes = drawn(row)?.unit;
  return comes && comes !== typed ? `${typed} → ${comes}` : typed;
};
const settles = computed(() => form.value.row.some((cell) => cell.name === 'ended'));
</script>

<template>
  <template v-if="rows.length">
    <StripRow v-for="row in rows" :key="row" :class="{ at: row === at }">
      <template #gutter>
        <button type="button" class="row-name" :aria-pressed="row === at" @click="emit('row', row)">
          <strong>{{ names.get(row) }}</strong>
          <span class="muted">{{ conditions(row) }}</span>
          <span class="muted">{{ units(row) }}</span>
        </button>
      </template>
      <template #default="{ cylinder: tag }">
        <TubeCell
          :row="row"
          :tag="tag"
          :cells="fields.get(row)!"
          :name="names.get(row)!"
          :hinted="each.length > 1"
          :lane-of="laneOf"
          @next="emit('next', $event)"
          @row="emit('row', $event)"
          @pasted="(event, spot) => emit('pasted', event, spot)"
        />
      </template>
      <template #tail>
        <RowTail
          :row="row"
          :settles="settles"
          :grade="drawn(row)?.grade ?? ''"
          :says="drawn(row)?.says ?? ''"
          :drawn="!!drawn(row)"
        />
      </template>
    </StripRow>
  </template>
  <template v-else>
    <StripRow v-for="cell in each" :key="cell.name" :word="cell.word">
      <template v-if="cell.sound != null" #gutter>
        <button class="all" type="button" @click="allSound(cell)">
          <span class="muted small">{{ cell.word }}</span>
          all {{ cell.choices[cell.sound] }}
        </button>
      </template>
      <template #default="{ cylinder: tag }">
        <ChoiceCell
          v-if="cell.choices.length"
          :word="cell.word"
          :choices="cell.choices"
          :cylinder="tag"
          noun="injector"
          :value="session.cells.text(spot(cell, null, tag))"
          @chose="session.cells.say(spot(cell, null, tag), $event)"
        />
        <CellInput
          v-else
          class="alone"
          data-cell
          :data-tag="tag"
          :inputmode="cell.words ? 'text' : 'decimal'"
          :aria-label="`${cell.word}, injector ${tag}`"
          :cells="session.cells"
          :spot="spot(cell, null, tag)"
          @keydown.enter.prevent="emit('next', $event)"
          @paste="emit('pasted', $event, spot(cell, null, tag))"
        />
      </template>
      <template #tail
        ><span class="muted small">{{ cell.unit }}</span></template
      >
    </StripRow>
  </template>
  <p v-for="(says, where) in session.cells.wrong" :key="where" class="wrong refused" role="alert">
    <template v-if="!where.toString().endsWith('- -')">{{ says }}</template>
  </p>
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
.row-name {
  display: grid;
  width: 100%;
  min-height: 52px;
  align-content: center;
  text-align: right;
  border: 0;
  background: none;
  cursor: pointer;
  font-size: 0.82rem;
  line-height: 1.2;
  padding: 2px 0;
}
.row-name .muted {
  font-size: 0.75rem;
}
.at {
  background: var(--act-soft);
}
input.alone {
  text-align: center;
  font-size: clamp(0.9rem, calc(20 * var(--cell)), 1.25rem);
  padding: 0 2px;
  display: block;
  width: calc(100% - 12px);
  margin: 5px 6px;
}
.refused:empty {
  display: none;
}
.refused {
  padding: 4px 14px;
}
</style>
