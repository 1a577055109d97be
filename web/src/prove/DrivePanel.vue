<script setup lang="ts">
import { computed } from 'vue';
import type { LearnedRequest, ProofView } from '@/api/types';
import HandLearned from './HandLearned.vue';
import type { ProofStep } from './useProof';

/** The learning drive: a row of beads for each kind of run, filled as the unit counts them. */
const props = defineProps<{
  learning?: ProofView['proof']['learning'];
  unit: boolean;
  standIn: boolean;
  busy: boolean;
  cylinders: readonly number[];
  /** Its control unit learns values of its injectors. */
  coded: boolean;
}>();
const emit = defineEmits<{
  step: [what: ProofStep];
  knob: [what: string, to: string];
  seen: [told: LearnedRequest];
}>();
const rows = computed(() =>
  (props.learning?.counters ?? []).map((one, i) => ({ ...one, how: props.learning!.how[i] })),
);
async function drive(band: string) {
  emit('knob', 'drive', band);
}
</script>

<template>
  <section class="drive">
    <template v-if="learning">
      <h2>Relearn drive</h2>
      <div v-for="row in rows" :key="row.band" class="band">
        <p>
          <strong>{{ row.band }}</strong> {{ row.done }} of {{ row.needed }}
        </p>
        <p class="beads" aria-hidden="true">
          <i v-for="n in row.needed" :key="n" :class="{ full: n <= row.done }"></i>
        </p>
        <p class="muted small">{{ row.how }}</p>
      </div>
      <p v-if="learning.learned.length" class="small">
        Learned values:
        <template v-for="(one, i) in learning.learned" :key="one.cylinder"
          >{{ i ? ', ' : '' }}{{ one.cylinder }}: {{ one.percent > 0 ? '+' : ''
          }}{{ one.percent }} %</template
        >
      </p>
      <button
        v-if="unit"
        class="side-act"
        type="button"
        :disabled="busy"
        @click="emit('step', 'proof/learned')"
      >
        Read counters again
      </button>
    </template>
    <HandLearned v-if="coded" :cylinders="cylinders" :busy="busy" @seen="emit('seen', $event)" />
    <details v-if="standIn">
      <summary>Simulated ECU: drive it</summary>
      <div class="knobs">
        <button class="side-act" type="button" :disabled="busy" @click="emit('knob', 'engine', 'on')">
          Start engine
        </button>
        <button class="side-act" type="button" :disabled="busy" @click="emit('knob', 'engine', 'off')">
          Stop engine
        </button>
        <button
          v-for="band in ['idle', 'cruise', 'coast']"
          :key="band"
          class="side-act"
          type="button"
          :disabled="busy"
          @click="drive(band)"
        >
          Drive one {{ band }} run
        </button>
        <button
          class="side-act"
          type="button"
          :disabled="busy"
          @click="emit('knob', 'fault', 'keep-learned')"
        >
          Ignore next clearing
        </button>
      </div>
    </details>
  </section>
</template>

<style scoped>
.drive {
  display: grid;
  gap: 10px;
}
.beads {
  display: flex;
  gap: 5px;
  padding: 3px 0;
}
.beads i {
  flex: 1 1 0;
  max-width: 46px;
  height: 16px;
  border: 2px solid var(--edge);
  border-radius: 8px;
}
.beads i.full {
  background: var(--act);
  border-color: var(--act);
}
summary {
  min-height: 44px;
  display: flex;
  align-items: center;
  cursor: pointer;
  color: var(--act);
  text-decoration: underline;
}
.knobs {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
