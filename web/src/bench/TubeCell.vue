<script setup lang="ts">
import { computed } from 'vue';
import type { CellForm } from '@/api/types';
import CellInput from '@/entry/CellInput.vue';
import InjectorMark from '@/strip/InjectorMark.vue';
import { useSession, type DrawnLane, type Spot } from './useSession';

/**
 * One tube of the grid: what was typed, how full it stands against its row, and its mark. It looks its
 * own state up, so that an entry draws the tubes that it changes and leaves the others alone.
 */
const props = defineProps<{
  row: number;
  tag: number;
  cells: CellForm[];
  name: string;
  /** Words in the empty fields, where one tube has several. */
  hinted: boolean;
  laneOf: (row: number, tag: number) => DrawnLane | undefined;
}>();
const emit = defineEmits<{
  next: [event: KeyboardEvent];
  row: [row: number];
  pasted: [event: ClipboardEvent, spot: Spot];
}>();
const session = useSession();
const lane = computed(() => props.laneOf(props.row, props.tag));
const mark = computed(() => lane.value?.mark);
const height = computed(() => lane.value?.height);
const fields = computed(() =>
  props.cells.map((cell) => ({ cell, spot: { cell: cell.name, row: props.row, tag: props.tag } })),
);
</script>

<template>
  <div class="tube" :data-mark="mark ?? 'not_measured'">
    <span v-if="height" class="fill" :style="{ height }"></span>
    <div class="inputs">
      <CellInput
        v-for="field in fields"
        :key="field.cell.name"
        data-cell
        :data-row="row"
        :data-tag="tag"
        :placeholder="hinted ? field.cell.word.split(' ')[0]!.toLowerCase() : ''"
        :aria-label="`${field.cell.word}, ${name}, injector ${tag}`"
        :cells="session.cells"
        :spot="field.spot"
        @focus="emit('row', row)"
        @keydown.enter.prevent="emit('next', $event)"
        @paste="emit('pasted', $event, field.spot)"
      />
      <span v-if="lane?.says" class="per">{{ lane.says }}</span>
    </div>
    <InjectorMark v-if="mark" class="cell-mark" :mark="mark" :size="20" />
  </div>
</template>

<style scoped>
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
.tube input {
  text-align: center;
  font-size: clamp(0.9rem, calc(20 * var(--cell)), 1.25rem);
  padding: 0 2px;
  min-height: 44px;
}
.inputs input + input {
  border-style: dashed;
}
.per {
  white-space: pre-line;
  font-size: 0.72rem;
  color: var(--muted);
  text-align: center;
  line-height: 1.1;
}
input::placeholder {
  font-weight: 400;
  font-size: 0.8rem;
}
/* In a narrow column the number comes first: the mark gives way below 84 px. */
.cell-mark {
  flex: none;
  width: clamp(0px, (100 * var(--cell) - 84px) * 99, 20px);
}
</style>
