<script setup lang="ts">
import { computed } from 'vue';
import type { CellForm } from '@/api/types';
import ChoiceCell from '@/sheet/ChoiceCell.vue';
import InjectorMark from '@/strip/InjectorMark.vue';
import StripRow from '@/strip/StripRow.vue';
import FoamTimer from './FoamTimer.vue';
import { useSession, type Spot } from './useSession';

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
/** A row of a map asks for what its windows are about; the rest on demand. */
const inRow = (row: number) => {
  const asked = form.value.test === 'map' && !props.more ? session.view.value!.asks[row - 1] : undefined;
  return asked ? form.value.each.filter((cell) => asked.includes(cell.name)) : each.value;
};
const byRow = computed(
  () =>
    new Map(
      (session.verdict.value?.rows ?? []).map((one) => {
        const values = one.lanes.map((lane) => lane.value ?? 0);
        const top = Math.max(...values, one.window?.[1] ?? 0) * 1.1 || 1;
        return [one.row, { ...one, top, of: new Map(one.lanes.map((lane) => [lane.tag, lane])) }];
      }),
    ),
);
const drawn = (row: number) => byRow.value.get(row);
const lane = (row: number, tag: number) => drawn(row)?.of.get(tag);
const name = (row: number) => {
  const point = session.file.value!.setup.points[row - 1];
  if (form.value.by_points) return point?.name ?? String(row);
  return drawn(row)?.name || `row ${row}`;
};
const spot = (cell: CellForm, row: number | null, tag: number): Spot => ({ cell: cell.name, row, tag });
const conditions = (row: number) => {
  const point = session.file.value!.setup.points[row - 1];
  if (!form.value.by_points || !point) return '';
  const typed = (cell: string, kept: number | null | undefined) =>
    session.text({ cell, row, tag: null }) || (kept == null ? '' : String(kept));
  return point.rail_kpa
    ? `${point.rail_kpa / 100} bar${point.pulse_ms ? `, ${point.pulse_ms} ms` : ', standing'}`
    : [
        typed('pulse', point.pulse_ms) && `${typed('pulse', point.pulse_ms)} ms`,
        typed('count', point.count)
          ? `× ${typed('count', point.count)}`
          : `${typed('seconds', point.seconds)} s`,
      ]
        .filter(Boolean)
        .join(' ');
};
/** When the run of a row ended; its foam settles from then on. */
const ended = (row: number) => {
  const held = session.standing({ cell: 'ended', row, tag: null });
  return held?.value ? held.signed.at : null;
};
const settles = computed(() => form.value.row.some((cell) => cell.name === 'ended'));
const share = (row: number, value: number) =>
  `${Math.min(100, Math.max(0, (value / (drawn(row)?.top ?? 1)) * 100))}%`;
</script>

<template>
  <template v-if="rows.length">
    <StripRow v-for="row in rows" :key="row" :class="{ at: row === at }">
      <template #gutter>
        <button type="button" class="row-name" :aria-pressed="row === at" @click="emit('row', row)">
          <strong>{{ name(row) }}</strong>
          <span class="muted">{{ conditions(row) }}</span>
        </button>
      </template>
      <template #default="{ cylinder: tag }">
        <div class="tube" :data-mark="lane(row, tag)?.mark ?? 'not_measured'">
          <span
            v-if="lane(row, tag)?.value != null"
            class="fill"
            :style="{ height: share(row, lane(row, tag)!.value!) }"
          ></span>
          <div class="inputs">
            <input
              v-for="cell in inRow(row)"
              :key="cell.name"
              data-cell
              :data-row="row"
              :data-tag="tag"
              inputmode="decimal"
              autocomplete="off"
              :placeholder="each.length > 1 ? cell.word.split(' ')[0]!.toLowerCase() : ''"
              :aria-label="`${cell.word}, ${name(row)}, injector ${tag}`"
              :value="session.text(spot(cell, row, tag))"
              :aria-invalid="!!session.wrong[session.key(spot(cell, row, tag))]"
              @focus="emit('row', row)"
              @input="session.type(spot(cell, row, tag), ($event.target as HTMLInputElement).value)"
              @blur="session.keep(spot(cell, row, tag))"
              @keydown.enter.prevent="emit('next', $event)"
              @paste="emit('pasted', $event, spot(cell, row, tag))"
            />
          </div>
          <InjectorMark v-if="lane(row, tag)" class="cell-mark" :mark="lane(row, tag)!.mark" :size="20" />
        </div>
      </template>
      <template #tail>
        <span class="tail">
          <strong v-if="drawn(row)?.grade">{{ drawn(row)!.grade }}</strong>
          <FoamTimer v-if="settles && ended(row)" :ended="ended(row)!" />
          <button
            v-if="settles && !ended(row) && !drawn(row)"
            type="button"
            class="end"
            @click="session.say({ cell: 'ended', row, tag: null }, '1')"
          >
            run ended
          </button>
          <span v-if="drawn(row)" class="muted">{{ drawn(row)!.says }}</span>
        </span>
      </template>
    </StripRow>
  </template>
  <template v-else>
    <StripRow v-for="cell in each" :key="cell.name" :word="cell.word">
      <template #default="{ cylinder: tag }">
        <ChoiceCell
          v-if="cell.choices.length"
          :word="cell.word"
          :choices="cell.choices"
          :cylinder="tag"
          noun="injector"
          :value="session.text(spot(cell, null, tag))"
          @chose="session.say(spot(cell, null, tag), $event)"
        />
        <input
          v-else
          class="alone"
          data-cell
          :data-tag="tag"
          :inputmode="cell.words ? 'text' : 'decimal'"
          autocomplete="off"
          :aria-label="`${cell.word}, injector ${tag}`"
          :value="session.text(spot(cell, null, tag))"
          :aria-invalid="!!session.wrong[session.key(spot(cell, null, tag))]"
          @input="session.type(spot(cell, null, tag), ($event.target as HTMLInputElement).value)"
          @blur="session.keep(spot(cell, null, tag))"
          @keydown.enter.prevent="emit('next', $event)"
          @paste="emit('pasted', $event, spot(cell, null, tag))"
        />
      </template>
      <template #tail
        ><span class="muted small">{{ cell.unit }}</span></template
      >
    </StripRow>
  </template>
  <p v-for="(says, where) in session.wrong" :key="where" class="wrong refused" role="alert">
    <template v-if="!where.toString().endsWith('- -')">{{ says }}</template>
  </p>
</template>

<style scoped>
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
.tube {
  position: relative;
  display: flex;
  align-items: center;
  gap: 4px;
  min-height: 54px;
  padding: 3px 4px 3px 14px;
  border-bottom: 1px solid var(--line);
}
/* The tube itself: a column of fuel at the edge of its cell, as high as it stands in its row. */
.fill {
  position: absolute;
  left: 2px;
  bottom: 0;
  width: 8px;
  background: currentcolor;
}
.inputs {
  display: grid;
  gap: 2px;
  flex: 1;
  min-width: 0;
}
.tube input,
input.alone {
  text-align: center;
  font-size: clamp(0.9rem, 20cqw, 1.25rem);
  padding: 0 2px;
}
.tube input {
  min-height: 44px;
}
.inputs input + input {
  border-style: dashed;
}
input::placeholder {
  font-weight: 400;
  font-size: 0.8rem;
}
input.alone {
  display: block;
  width: calc(100% - 12px);
  margin: 5px 6px;
}
.cell-mark {
  flex: none;
}
.tail {
  display: grid;
  font-size: 0.78rem;
  line-height: 1.25;
}
.end {
  min-height: 44px;
  border: 2px dashed var(--edge);
  border-radius: 6px;
  background: none;
  cursor: pointer;
  font-size: 0.8rem;
}
.refused:empty {
  display: none;
}
.refused {
  padding: 4px 14px;
}
@container (max-width: 84px) {
  .cell-mark {
    display: none;
  }
}
</style>
