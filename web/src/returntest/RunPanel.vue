<script setup lang="ts">
import { computed, ref } from 'vue';
import { refusal } from '@/api/client';
import { newId } from '@/domain/identity';
import { plain } from '@/domain/numbers';
import { clock } from '@/domain/time';
import { useJob } from '@/job/useJob';
import { useKeys } from '@/shell/useKeys';
import { REGIME } from '@/words';
import StageChecks from '@/sheet/StageChecks.vue';
import RejudgeDialog from './RejudgeDialog.vue';

/** Between runs: start one, or type in one that was timed elsewhere. */
defineEmits<{ other: [] }>();
const job = useJob();
const test = computed(() => job.test.value!);
const setup = computed(() => test.value.setup);
const next = computed(() => test.value.runs.length + 1);
const wanted = computed(() => setup.value.rules.runs_to_replace);
const wrong = ref('');
const rejudging = ref(false);
const rules = computed(() =>
  setup.value.rules.revision ? `house rule, revision ${setup.value.rules.revision}` : 'house rule',
);
const read = computed(() => test.value.runs.some((run) => run.readings.length > 0));

async function begin(timer: boolean) {
  try {
    await job.change('POST', `/return-tests/${test.value.id}/runs`, { id: newId(), timer });
    wrong.value = '';
  } catch (error) {
    wrong.value = refusal(error).message;
  }
}
useKeys([
  { key: ' ', word: 'start the run', run: () => void begin(true) },
  { key: 't', word: 'type in a finished run', run: () => void begin(false) },
]);
</script>

<template>
  <div class="panel">
    <h2>Return test, run {{ next }}</h2>
    <p class="muted">
      {{ REGIME[setup.regime].toLowerCase()
      }}<template v-if="setup.temperature_c != null">, {{ plain(setup.temperature_c) }} °C</template
      ><template v-if="setup.speed_rpm != null">, {{ setup.speed_rpm }} rpm</template>
    </p>
    <p class="big">{{ clock(setup.planned_s) }}</p>
    <button class="main-act" type="button" @click="begin(true)">
      Start run {{ next }} <span class="key">space</span>
    </button>
    <button class="side-act" type="button" @click="begin(false)">
      Type in a finished run <span class="key">T</span>
    </button>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <p class="caution small">
      <strong>Fuel under pressure.</strong> Never open a line on a running engine; wait for pressure to fall.
      A jet through the skin needs a surgeon at once. Extraction on, wheels chocked. Trained people only; the
      maker’s instructions come first.
    </p>
    <p class="muted small">
      Bottles {{ setup.capacity_ml }} ml, marks every {{ setup.graduation_ml }} ml. One run screens; a
      replacement asks for {{ wanted }} ({{ rules }}).
    </p>
    <RouterLink class="side-act" :to="`/jobs/${job.id.value}/decide`">Decide</RouterLink>
    <button class="link-act" type="button" @click="$emit('other')">Other bottles or conditions</button>
    <button v-if="read" class="link-act" type="button" @click="rejudging = true">
      Judge by today’s library
    </button>
    <StageChecks stage="on_engine" />
    <RejudgeDialog v-if="rejudging" @close="rejudging = false" />
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 11px;
}
.big {
  font-size: 3rem;
  font-weight: 700;
  line-height: 1.1;
}
</style>
