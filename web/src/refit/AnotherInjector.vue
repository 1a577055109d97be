<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import { ask, type Refusal } from '@/api/client';
import type { Event, Part } from '@/api/types';
import { useJudgement } from '@/decide/useJudgement';
import { newId } from '@/domain/identity';
import { useDelayed } from '@/domain/useDelayed';
import { useJob, type Decided } from '@/job/useJob';
import TypedField from '@/shell/TypedField.vue';
import { DECISION, PART } from '@/words';

/**
 * Another injector goes into this cylinder, with its own label, so that its code and its life are its own. One
 * that this workshop knows brings along what was read of it; where nothing of the kind was decided, the reason
 * is asked for in the same step.
 */
const props = defineProps<{
  cylinder: number;
  wrong?: Refusal;
  tell: (event: Event, decision?: Decided) => Promise<boolean>;
}>();
const job = useJob();
const { at } = useJudgement();
const label = ref('');
const reason = ref('');
const open = ref(false);
const typed = useDelayed(() => label.value.trim(), 200);
const found = useQuery({
  queryKey: computed(() => ['passports', typed.value, 0]),
  queryFn: () => ask('get', '/api/passports', { params: { query: { q: typed.value } } }),
  enabled: computed(() => typed.value !== ''),
  placeholderData: keepPreviousData,
});
/** The injector of this label that the workshop knows from another job. */
const known = computed(() =>
  found.data.value?.lines.find(
    (one) => one.label.toLowerCase() === label.value.trim().toLowerCase() && one.job !== job.id.value,
  ),
);
const decides = (cylinder: number) =>
  ['replace', 'match', 'adjust', 'clean'].includes(job.decision(cylinder)?.decision ?? '');
const asks = computed(() => !decides(props.cylinder) || !!props.wrong?.about('reason'));
const proposed = computed(() => at(props.cylinder)?.ruling);
watch(open, () => {
  if (proposed.value?.decision === 'replace') reason.value ||= proposed.value.sentence;
});
const because = (cylinder: number): Decided | undefined =>
  reason.value.trim() ? { cylinder, decision: 'replace', reason: reason.value.trim() } : undefined;

async function put(part: Part) {
  const id = known.value?.injector ?? newId();
  const injector = { id, cylinder: props.cylinder, label: known.value?.label ?? label.value.trim() };
  if (await props.tell({ what: 'replaced', injector, part }, because(props.cylinder))) shut();
}
/** The whole set that the known one came with, cylinder by cylinder, for one reason. */
async function putSet() {
  const { seats } = await ask('get', '/api/jobs/{job}', { params: { path: { job: known.value!.job } } });
  for (const { cylinder, injector: id, label: its } of seats) {
    if (!job.view.value?.seats.some((one) => one.cylinder === cylinder)) continue;
    const injector = { id, cylinder, label: its };
    const done = await props.tell({ what: 'replaced', injector, part: 'tested' }, because(cylinder));
    if (!done) return;
  }
  shut();
}
function shut() {
  [label.value, reason.value, open.value] = ['', '', false];
}
</script>

<template>
  <section>
    <button v-if="!open" class="side-act" type="button" @click="open = true">
      Change injector, cylinder {{ cylinder }}
    </button>
    <form v-else @submit.prevent @keydown.escape="shut">
      <TypedField
        v-model="label"
        name="label"
        word="Serial number or label"
        wide
        :wrong="wrong?.about('label') || wrong?.about('labels')"
      />
      <p v-if="known" class="known">
        <strong>{{ known.label }}</strong> is known from job {{ known.number }}, {{ known.machine }}: its
        readings come along.
      </p>
      <template v-if="asks">
        <p v-if="proposed" class="small">
          Proposed for cylinder {{ cylinder }}: <strong>{{ DECISION[proposed.decision] }}</strong>.
          {{ proposed.sentence }}
        </p>
        <TypedField
          v-model="reason"
          name="replaced-because"
          word="Why it is replaced"
          wide
          :wrong="wrong?.about('reason')"
        />
      </template>
      <p class="muted small">Earlier readings stay with the removed injector.</p>
      <div class="kinds">
        <button
          v-for="(word, part) in PART"
          :key="part"
          class="side-act"
          type="button"
          :disabled="!label.trim() || (asks && !reason.trim())"
          @click="put(part)"
        >
          {{ word }}
        </button>
        <button
          v-if="known"
          class="side-act"
          type="button"
          :disabled="!reason.trim() && !job.view.value!.seats.every((one) => decides(one.cylinder))"
          @click="putSet"
        >
          Fit whole set of job {{ known.number }}
        </button>
        <button class="link-act" type="button" @click="shut">Cancel</button>
      </div>
    </form>
  </section>
</template>

<style scoped>
section > .side-act {
  width: 100%;
}
form {
  display: grid;
  gap: 8px;
}
.kinds {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.known {
  border-left: 6px solid var(--act);
  padding-left: 12px;
}
</style>
