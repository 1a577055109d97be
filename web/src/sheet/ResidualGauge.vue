<script setup lang="ts">
import { computed, ref } from 'vue';
import { refusal } from '@/api/client';
import type { Event, Verdict } from '@/api/types';
import { moment } from '@/domain/time';
import { useJob } from '@/job/useJob';
import StripRow from '@/strip/StripRow.vue';

/** Fuel on each piston against the stop, over all runs since it was last cleared. */
const props = defineProps<{ verdict: Verdict }>();
const job = useJob();
const of = (cylinder: number) => props.verdict.residual.find((one) => one.cylinder === cylinder);
const worst = computed(() => props.verdict.residual.some((one) => one.level !== 'ok'));
const wrong = ref('');
const asking = ref(false);
const how = ref('');
/** The clearing that stands: the newest one that nobody undid. */
const last = computed(() =>
  job.view.value?.file.events?.find((one) => one.id === job.view.value?.current.cleared),
);
async function happened(event: Event) {
  try {
    await job.happened(event);
    wrong.value = '';
    asking.value = false;
    how.value = '';
  } catch (error) {
    wrong.value = refusal(error).about('how') || refusal(error).message;
  }
}
</script>

<template>
  <StripRow word="fuel left">
    <template #default="{ cylinder }">
      <div
        class="gauge"
        :class="of(cylinder)?.level"
        :title="`${of(cylinder)?.injected_ml.toFixed(1) ?? 0} ml`"
      >
        <div class="fill" :style="{ width: `${Math.min(of(cylinder)?.of_stop ?? 0, 1) * 100}%` }"></div>
        <span>{{ of(cylinder) ? `${(of(cylinder)!.fraction * 100).toFixed(1)} %` : '' }}</span>
      </div>
    </template>
    <template #tail><span class="muted small">of its clearance volume</span></template>
  </StripRow>
  <div v-if="verdict.residual.length" class="act">
    <button v-if="!asking" :class="worst ? 'main-act' : 'side-act'" type="button" @click="asking = true">
      Record clearing
    </button>
    <form v-else @submit.prevent="happened({ what: 'cleared', how })">
      <label for="cleared-how">What was done, and by whom</label>
      <input
        id="cleared-how"
        v-model="how"
        autocomplete="off"
        placeholder="spark plugs out, clear-flood cranked"
      />
      <button class="main-act" type="submit">Record clearing</button>
      <button class="side-act" type="button" @click="asking = false">Cancel</button>
    </form>
    <span v-if="wrong" class="wrong" role="alert">{{ wrong }}</span>
  </div>
  <p v-if="last && last.event.what === 'cleared'" class="act muted small">
    <span>Cleared {{ moment(last.signed.at) }}, {{ job.person(last.signed.by) }}: {{ last.event.how }}</span>
    <button
      class="side-act"
      type="button"
      @click="happened({ what: 'clearing_undone', of: last.id, reason: 'Recorded by mistake.' })"
    >
      Undo clearing
    </button>
  </p>
</template>

<style scoped>
.gauge {
  position: relative;
  height: 30px;
  margin: 4px 6px;
  border: 2px solid var(--edge);
  border-radius: 4px;
  text-align: center;
  font-weight: 700;
  font-size: 0.9rem;
  line-height: 26px;
}
.gauge span {
  position: relative;
}
.fill {
  position: absolute;
  inset: 0 auto 0 0;
  background: var(--rest);
}
.caution .fill {
  background: repeating-linear-gradient(45deg, var(--look) 0 3px, var(--rest) 3px 8px);
}
.stop {
  background: var(--too-much);
  border-color: var(--too-much);
  color: var(--sheet);
}
.stop .fill {
  display: none;
}
.act {
  display: flex;
  justify-content: center;
  padding: 6px;
}
</style>
