<script setup lang="ts">
import { ref } from 'vue';
import { refusal } from '@/api/client';
import type { SheetRecord } from '@/api/types';
import { newId } from '@/domain/identity';
import { useJob } from '@/job/useJob';
import LiveTrace from './LiveTrace.vue';
import { useTrace } from './useTrace';

/**
 * A pressure trace with the drops found in it. Tap a start or an end, then tap the trace where it
 * belongs; "take over" writes them into the cells, in the order of pulsing.
 */
const props = defineProps<{ record: SheetRecord | undefined; order: number[] }>();
const emit = defineEmits<{
  take: [cylinder: number, start: number, end: number];
  needed: [then: (id: string) => void];
}>();
const job = useJob();
const { W, H, trace, x, y, line, drops, held, moved, place } = useTrace(() => props.record);
const wrong = ref('');
async function read(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0];
  if (!file) return;
  const text = await file.text();
  const send = async (sheet: string) => {
    try {
      moved.value = {};
      await job.change('post', '/api/sheets/{sheet}/traces', {
        params: { path: { sheet } },
        body: {
          id: newId(),
          name: file.name,
          text,
          order: props.order,
        },
      });
      wrong.value = '';
    } catch (error) {
      wrong.value = refusal(error).about('text') || refusal(error).message;
    }
  };
  if (props.record) await send(props.record.id);
  else emit('needed', (id) => void send(id));
}
function take() {
  for (const drop of drops.value)
    if (drop.cylinder !== undefined) emit('take', drop.cylinder, drop.start[1]!, drop.end[1]!);
}
const shown = (value: number) => value.toFixed(1);
</script>

<template>
  <section class="trace" aria-label="Pressure trace">
    <LiveTrace :record="record" :order="order" @needed="emit('needed', $event)" />
    <label class="file side-act">
      Import a trace <input type="file" accept=".csv,.txt,text/csv" @change="read" />
    </label>
    <span class="muted small"
      >CSV of time and pressure (kPa), pulsed in the order {{ order.join(', ') }}.</span
    >
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <template v-if="trace">
      <svg
        :viewBox="`0 0 ${W} ${H}`"
        preserveAspectRatio="none"
        role="img"
        :aria-label="`${drops.length} drops found in ${trace.name}`"
        :class="{ holding: held }"
        @click="place"
      >
        <polyline :points="line" />
        <g v-for="(drop, i) in drops" :key="i">
          <rect
            :x="x(drop.start[0]!)"
            :y="y(drop.start[1]!)"
            :width="Math.max(x(drop.end[0]!) - x(drop.start[0]!), 2)"
            :height="Math.max(y(drop.end[1]!) - y(drop.start[1]!), 2)"
          />
          <line :x1="x(drop.start[0]!)" :x2="x(drop.start[0]!)" y1="0" :y2="H" />
          <line :x1="x(drop.end[0]!)" :x2="x(drop.end[0]!)" y1="0" :y2="H" class="end" />
        </g>
      </svg>
      <div class="drops">
        <div v-for="(drop, i) in drops" :key="i" class="drop">
          <strong>{{ drop.cylinder ?? '?' }}</strong>
          <button type="button" :aria-pressed="held === `${i}-start`" @click="held = `${i}-start`">
            {{ shown(drop.start[1]!) }}
          </button>
          <button type="button" :aria-pressed="held === `${i}-end`" @click="held = `${i}-end`">
            {{ shown(drop.end[1]!) }}
          </button>
        </div>
        <button class="main-act" type="button" @click="take">Use these drops</button>
      </div>
      <p class="muted small" role="status">
        {{
          held
            ? 'Now tap the trace where it belongs.'
            : drops.length === order.length
              ? `${drops.length} drops found, one per injector. Tap a number to move it.`
              : `${drops.length} drops found for ${order.length} injectors: check them before use.`
        }}
      </p>
    </template>
  </section>
</template>

<style scoped>
.trace {
  padding: 8px 14px;
  display: grid;
  gap: 6px;
}
.file {
  position: relative;
  justify-self: start;
}
.file input {
  position: absolute;
  inset: 0;
  opacity: 0;
  cursor: pointer;
}
.file:focus-within {
  outline: 3px solid var(--act);
  outline-offset: 2px;
}
svg {
  width: 100%;
  height: 200px;
  background: var(--sheet);
  border: 1px solid var(--line);
}
.holding {
  cursor: crosshair;
  outline: 3px solid var(--act);
}
polyline {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
  vector-effect: non-scaling-stroke;
}
rect {
  fill: var(--act);
  opacity: 0.18;
}
line {
  stroke: var(--inside);
  stroke-width: 2;
  vector-effect: non-scaling-stroke;
}
line.end {
  stroke: var(--too-much);
  stroke-dasharray: 5 4;
}
.drops {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
.drop {
  display: flex;
  gap: 4px;
  align-items: center;
}
.drop button {
  min-height: 46px;
  min-width: 64px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  cursor: pointer;
}
.drop button[aria-pressed='true'] {
  background: var(--act);
  color: var(--act-ink);
}
</style>
