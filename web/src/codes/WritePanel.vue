<script setup lang="ts">
import { computed } from 'vue';
import type { Coding, SlotCode, WritingView } from '@/api/types';

/** The plan of writes as a difference, the writing as it goes, and its end after reading back. */
const props = defineProps<{ coding: Coding; writing?: WritingView | null; busy: boolean }>();
const emit = defineEmits<{ write: [what: 'plan' | 'put_back', writes: SlotCode[]] }>();
const plan = computed<SlotCode[]>(() =>
  props.coding.plan.map((one) => ({ cylinder: one.cylinder, code: one.to })),
);
const running = computed(() => props.writing?.running);
const share = computed(() => {
  const one = props.writing;
  return one && one.of ? (one.done + one.percent / 100) / one.of : 0;
});
</script>

<template>
  <section class="write">
    <template v-if="running">
      <h2>Writing cylinder {{ writing!.cylinder }}</h2>
      <p class="percent" aria-hidden="true">{{ Math.round(share * 100) }} %</p>
      <progress :value="share" max="1" aria-label="Codes written"></progress>
      <p>
        {{ writing!.done }} of {{ writing!.of }} written. Leave the ignition on; the codes are read back at
        the end.
      </p>
    </template>
    <template v-else>
      <p v-if="writing?.says" class="end" :class="writing.good ? 'good' : 'bad'" role="status">
        {{ writing.says }}
      </p>
      <template v-if="plan.length">
        <h2>To be written</h2>
        <ol>
          <li v-for="one in coding.plan" :key="one.cylinder">
            <strong>{{ one.cylinder }}</strong>
            <span class="from">{{ one.from ?? 'nothing' }}</span>
            <span class="to">{{ one.to }}</span>
          </li>
        </ol>
        <p class="caution">Ignition on, engine off, support charger on the battery. Keep doors shut.</p>
        <button class="main-act" type="button" :disabled="busy" @click="emit('write', 'plan', plan)">
          Write {{ plan.length }} trim {{ plan.length === 1 ? 'code' : 'codes' }} and read back
        </button>
      </template>
      <button
        v-if="coding.put_back.length"
        class="side-act"
        type="button"
        :disabled="busy"
        @click="emit('write', 'put_back', coding.put_back)"
      >
        Restore old codes: {{ coding.put_back.map((one) => one.cylinder).join(', ') }}
      </button>
    </template>
  </section>
</template>

<style scoped>
.percent {
  font-size: 3rem;
  font-weight: 700;
  line-height: 1.1;
}
progress {
  width: 100%;
  height: 22px;
  accent-color: var(--act);
}
.write {
  display: grid;
  gap: 10px;
}
progress {
  width: 100%;
  height: 18px;
  accent-color: var(--act);
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 34px minmax(0, 1fr) minmax(0, 1fr);
  gap: 8px;
  align-items: baseline;
  border-bottom: 1px solid var(--line);
  padding: 6px 0;
  overflow-wrap: anywhere;
}
li strong {
  font-size: 1.3rem;
}
.from {
  text-decoration: line-through;
  color: var(--muted);
}
.to {
  font-weight: 700;
}
.to::before {
  content: '→ ';
}
.end {
  border-left: 6px solid var(--too-much);
  padding: 4px 0 4px 12px;
  font-weight: 700;
}
.end.good {
  border-left-color: var(--inside);
}
</style>
