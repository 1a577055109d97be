<script setup lang="ts">
import { computed, ref } from 'vue';
import type { ItemState, Mark, ProofView, Told } from '@/api/types';
import { moment } from '@/domain/time';
import CautionList from '@/job/CautionList.vue';
import { COMPLAINT_NOW, complaintIs } from '@/decide/words';
import InjectorMark from '@/strip/InjectorMark.vue';
import { PROOF, sayWhatWasSeen } from '@/words';
import type { ProofStep } from './useProof';

/** One item of the proof; the next one lies open with its cautions and what can be told of it. */
const props = defineProps<{
  item: ProofView['proof']['items'][number];
  next: boolean;
  closed: boolean;
  unit: boolean;
  where?: string;
  by: string;
  busy: boolean;
}>();
const emit = defineEmits<{
  tell: [told: Told, note: string];
  /** The complaint is still there. */
  left: [answer: 'better' | 'same', note: string];
  step: [what: ProofStep];
}>();
const tapped = ref<boolean>();
const open = computed(() => tapped.value ?? props.next);
const note = ref('');
const MARKS: Record<ItemState, Mark> = {
  open: 'not_measured',
  good: 'inside',
  failed: 'too_much',
  unsure: 'undecided',
  left_out: 'look',
};
function tell(told: Told) {
  emit('tell', told, note.value.trim());
  done();
}
function answer(now: 'gone' | 'better' | 'same') {
  if (now === 'gone') return tell('good');
  emit('left', now, note.value.trim());
  done();
}
function done() {
  note.value = '';
  tapped.value = undefined;
}
/** What was seen has to be said before it counts as passed. */
const wordless = computed(() => props.item.needs_words && !note.value.trim());
</script>

<template>
  <li class="item" :class="[item.state, { next }]">
    <button class="head" type="button" :aria-expanded="open" @click="tapped = !open">
      <span :data-mark="MARKS[item.state]"><InjectorMark :mark="MARKS[item.state]" :size="30" silent /></span>
      <span class="what">
        <strong>{{ item.title }}</strong>
        <span class="says">{{ item.says || item.how }}</span>
      </span>
      <span class="state"
        >{{ PROOF[item.state] }}
        <span v-if="item.signed" class="small muted">{{ by }}, {{ moment(item.signed.at) }}</span></span
      >
    </button>
    <div v-if="open" class="more">
      <p v-if="item.says">{{ item.how }}</p>
      <CautionList :cautions="item.cautions" />
      <div v-if="!closed" class="acts">
        <RouterLink v-if="where" :class="next ? 'main-act' : 'side-act'" :to="where">{{
          item.asks_complaint ? 'Decide again' : 'Open step'
        }}</RouterLink>
        <button
          v-if="unit && item.id === 'cleared'"
          class="side-act"
          :class="{ 'main-act': next }"
          type="button"
          :disabled="busy"
          @click="emit('step', 'proof/clear')"
        >
          Clear and read back
        </button>
        <button
          v-if="unit && item.id === 'drive'"
          class="side-act"
          :class="{ 'main-act': next }"
          type="button"
          :disabled="busy"
          @click="emit('step', 'proof/learned')"
        >
          Read the counters
        </button>
        <template v-if="item.asks_complaint">
          <span>{{ complaintIs }}</span>
          <button
            v-for="[now, word] in COMPLAINT_NOW"
            :key="now"
            :class="next && now === 'gone' ? 'main-act' : 'side-act'"
            type="button"
            :disabled="busy || (now === 'gone' && wordless)"
            :title="now === 'gone' && wordless ? sayWhatWasSeen : undefined"
            @click="answer(now)"
          >
            {{ word }}
          </button>
        </template>
        <button
          v-else-if="!item.seen"
          :class="next && !(unit && ['cleared', 'drive'].includes(item.id)) ? 'main-act' : 'side-act'"
          type="button"
          :disabled="busy || wordless"
          :title="wordless ? sayWhatWasSeen : undefined"
          @click="tell('good')"
        >
          Mark passed
        </button>
      </div>
      <form v-if="!closed" @submit.prevent>
        <label :for="`note-${item.id}`">What was seen, or why it is skipped</label>
        <input :id="`note-${item.id}`" v-model="note" autocomplete="off" />
        <div class="acts">
          <button
            v-if="!item.seen && !item.asks_complaint"
            class="link-act"
            type="button"
            :disabled="busy"
            @click="tell('failed')"
          >
            Mark failed
          </button>
          <button class="link-act" type="button" :disabled="busy" @click="tell('left_out')">
            Skip and sign
          </button>
        </div>
      </form>
    </div>
  </li>
</template>

<style scoped>
.item {
  border-bottom: 1px solid var(--line);
}
.head {
  width: 100%;
  min-height: 58px;
  display: grid;
  grid-template-columns: 40px minmax(0, 1fr) 150px;
  gap: 0 10px;
  align-items: center;
  text-align: left;
  background: none;
  border: 0;
  cursor: pointer;
  padding: 4px 10px 4px 8px;
}
.what,
.state {
  display: grid;
}
.what strong {
  font-size: 1.12rem;
}
.says {
  color: var(--muted);
}
.good .says,
.failed .says,
.unsure .says {
  color: var(--ink);
}
.state {
  border-left: 5px solid var(--edge);
  padding-left: 10px;
}
.good .state {
  border-color: var(--inside);
}
.failed .state {
  border-color: var(--too-much);
  font-weight: 700;
}
.left_out .state,
.unsure .state {
  border-color: var(--look);
}
.next {
  background: var(--sheet);
  border: 3px solid var(--act);
}
.more {
  padding: 0 12px 12px 50px;
  display: grid;
  gap: 8px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
}
form {
  display: grid;
  gap: 4px;
}
input {
  min-height: 46px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 10px;
}
@media (max-width: 700px) {
  .head {
    grid-template-columns: 40px minmax(0, 1fr) 100px;
  }
}
</style>
