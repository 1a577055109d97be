<script setup lang="ts">
import { computed, ref } from 'vue';
import type { PlanStep } from '@/api/types';
import CautionList from '@/job/CautionList.vue';
import { pathOf } from './pathOf';
import { STEP } from '@/words';

/** One step: what, why, how long, with what; opened, its cautions before it is begun. */
const props = defineProps<{ step: PlanStep; number: number; next: boolean; job: string }>();
const emit = defineEmits<{ skip: [reason: string]; back: []; first: []; done: [] }>();
const open = ref(props.next);
const skipping = ref(false);
const reason = ref('');
const to = computed(() => pathOf(props.step, props.job));
</script>

<template>
  <li class="step" :class="[step.state, { next }]">
    <button class="head" type="button" :aria-expanded="open" @click="open = !open">
      <span class="no">{{ number }}</span>
      <span class="what">
        <strong>{{ step.title }}</strong>
        <span class="says">{{ step.says || step.why }}</span>
      </span>
      <span class="minutes">{{ step.minutes }}<span class="unit"> min</span></span>
      <span class="state">{{ STEP[step.state] }}</span>
    </button>
    <div class="more" :class="{ closed: !open }">
      <p v-if="step.says">{{ step.why }}</p>
      <p class="small"><span class="muted">Tools:</span> {{ step.tools || 'no special tools' }}.</p>
      <p v-if="step.spared_by" class="small">
        <span class="muted">Not needed if:</span> {{ step.spared_by }}
      </p>
      <CautionList :cautions="step.cautions" />
      <div class="acts">
        <RouterLink :class="next ? 'main-act' : 'side-act'" :to="to">
          {{ step.state === 'done' ? 'See result' : 'Start check' }} <span v-if="next" class="key">G</span>
        </RouterLink>
        <button
          v-if="!step.check && step.state !== 'done'"
          class="link-act"
          type="button"
          @click="emit('done')"
        >
          Mark done
        </button>
        <button v-if="step.state === 'open' && !next" class="link-act" type="button" @click="emit('first')">
          Move step first
        </button>
        <button
          v-if="step.state === 'skipped' || step.state === 'spared' || step.state === 'waits'"
          class="link-act"
          type="button"
          @click="emit('back')"
        >
          Do step anyway
        </button>
        <button
          v-else-if="step.state === 'open'"
          class="link-act"
          type="button"
          @click="skipping = !skipping"
        >
          Skip step
        </button>
      </div>
      <form v-if="skipping" @submit.prevent="(emit('skip', reason), (skipping = false))">
        <label>Reason for skipping <input v-model="reason" data-reason autocomplete="off" /></label>
        <button class="side-act" type="submit">Skip step</button>
      </form>
    </div>
  </li>
</template>

<style scoped>
.step {
  border-bottom: 1px solid var(--line);
  break-inside: avoid;
}
.head {
  width: 100%;
  min-height: 62px;
  display: grid;
  grid-template-columns: 44px minmax(0, 1fr) 82px 104px;
  gap: 0 10px;
  align-items: center;
  text-align: left;
  background: none;
  border: 0;
  cursor: pointer;
  padding: 6px 10px 6px 0;
}
.no {
  font-size: 1.5rem;
  font-weight: 700;
  text-align: right;
}
.what {
  display: grid;
}
.what strong {
  font-size: 1.12rem;
}
.says {
  color: var(--muted);
}
.done .says {
  color: var(--ink);
}
.minutes {
  font-size: 1.35rem;
  font-weight: 700;
  text-align: right;
}
.state {
  border-left: 5px solid var(--edge);
  padding-left: 10px;
}
.open .state {
  border-color: var(--act);
}
.done .state {
  border-color: var(--inside);
}
.waits .state {
  border-color: var(--look);
}
.spared .no,
.skipped .no,
.spared .minutes,
.skipped .minutes,
.spared strong,
.skipped strong,
.done .minutes {
  color: var(--muted);
  font-weight: 400;
}
.next {
  background: var(--sheet);
  border: 3px solid var(--act);
}
.next strong {
  font-size: 1.3rem;
}
.more {
  padding: 4px 12px 14px 54px;
  display: grid;
  gap: 8px;
}
.closed {
  display: none;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
}
form {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}
input {
  min-height: 46px;
  min-width: 260px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 10px;
}
@media print {
  .closed {
    display: grid;
  }
  .acts,
  form {
    display: none;
  }
  .head {
    min-height: 0;
  }
}
</style>
