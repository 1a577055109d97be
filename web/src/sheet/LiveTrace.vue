<script setup lang="ts">
import { computed, ref, shallowRef, triggerRef } from 'vue';
import { refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { LiveView, SheetRecord } from '@/api/types';
import LiveState from '@/connections/LiveState.vue';
import { useConnections } from '@/connections/useConnections';
import { useLive } from '@/connections/useLive';
import { newId } from '@/domain/identity';
import { useJob } from '@/job/useJob';
import { traceWith, tracing, traceFull, waitTrace } from './words';

/** A pressure trace as it comes from a gauge: drawn while it is taken, each drop marked as it is found. */
const props = defineProps<{ record: SheetRecord | undefined; order: number[] }>();
const emit = defineEmits<{ needed: [then: (id: string) => void] }>();
const job = useJob();
const { showing } = useConnections();
const gauges = computed(() => showing('pressure').filter((one) => one.connection.kind === 'gauge'));
const gauge = ref<string>();
const taking = ref(false);
const wrong = ref('');
/** Time in s and pressure; a screen shows the last two minutes at most. */
const points = shallowRef<[number, number][]>([]);
const MOST = 6000;
const drops = ref<NonNullable<LiveView['drops']>>([]);
/** It takes no more points. */
const full = ref(false);
let began = 0;
const live = useLive(() => (taking.value ? gauge.value : undefined), { quantity: 'pressure', each: takes });
const named = computed(
  () => gauges.value.find((one) => one.connection.id === gauge.value)?.connection.name ?? '',
);

function takes(look: LiveView) {
  if (look.drops) drops.value = look.drops;
  full.value = look.full;
  if (!look.caught || !look.values.length) return;
  began ||= look.at_ms;
  points.value.push([(look.at_ms - began) / 1000, look.values[0]!]);
  if (points.value.length > MOST) points.value.shift();
  triggerRef(points);
}
const W = 1000;
const H = 240;
const end = computed(() => Math.max((live.look.value, points.value.at(-1)?.[0] ?? 0), 20));
const top = computed(() => Math.max(...points.value.map((one) => one[1]), 1) * 1.05);
const x = (t: number) => (t / end.value) * W;
const y = (p: number) => H - (p / top.value) * H;
/** Drawn with the newest look, not with each point. */
const line = computed(() => {
  void live.look.value;
  return points.value.map(([t, p]) => `${x(t).toFixed(1)},${y(p).toFixed(1)}`).join(' ');
});

async function begin(id: string) {
  gauge.value = id;
  const start = async (sheet: string) => {
    try {
      [points.value, drops.value, began] = [[], [], 0];
      await act('post', '/api/sheets/{sheet}/live', {
        params: { path: { sheet } },
        body: { connection: id },
      });
      [wrong.value, taking.value] = ['', true];
    } catch (error) {
      wrong.value = refusal(error).message;
    }
  };
  if (props.record) await start(props.record.id);
  else emit('needed', (sheet) => void start(sheet));
}
async function finish() {
  try {
    await job.change('post', '/api/sheets/{sheet}/live/end', {
      params: { path: { sheet: props.record!.id } },
      body: { id: newId(), order: props.order },
    });
    wrong.value = '';
  } catch (error) {
    const said = refusal(error);
    wrong.value = said.about('order') ?? said.message;
  } finally {
    taking.value = false;
  }
}
</script>

<template>
  <div v-if="gauges.length" class="live-trace">
    <p class="acts">
      <template v-if="!taking">
        <button
          v-for="one in gauges"
          :key="one.connection.id"
          class="side-act"
          type="button"
          @click="begin(one.connection.id)"
        >
          {{ traceWith(one.connection.name) }}
        </button>
      </template>
      <button v-else class="main-act" type="button" @click="finish">Stop and find drops</button>
      <LiveState v-if="taking" :live="live" :name="named" />
    </p>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <template v-if="taking">
      <svg :viewBox="`0 0 ${W} ${H}`" preserveAspectRatio="none" role="img" aria-label="Pressure as it comes">
        <rect
          v-for="(drop, i) in drops"
          :key="i"
          :x="x(drop.start_s)"
          :y="y(drop.start_kpa)"
          :width="Math.max(x(drop.end_s) - x(drop.start_s), 3)"
          :height="Math.max(y(drop.end_kpa) - y(drop.start_kpa), 3)"
        />
        <polyline :points="line" />
      </svg>
      <p role="status">{{ full ? traceFull : drops.length ? tracing(drops.length) : waitTrace }}</p>
    </template>
  </div>
</template>

<style scoped>
.live-trace {
  display: grid;
  gap: 6px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
}
svg {
  width: 100%;
  height: 200px;
  background: var(--sheet);
  border: 1px solid var(--line);
}
polyline {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
  vector-effect: non-scaling-stroke;
}
rect {
  fill: var(--act);
  opacity: 0.25;
}
</style>
