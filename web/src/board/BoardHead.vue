<script setup lang="ts">
import { computed, watch } from 'vue';
import type { BoardPage, Tone } from '@/api/types';
import { clock } from '@/domain/time';
import { useNow } from '@/domain/useNow';
import { ring } from '@/returntest/ring';
import { stage } from '@/words';

/** What runs, and what waits for a person: the top of the board. */
const props = defineProps<{ board: BoardPage }>();
const tone = defineModel<Tone | ''>('tone', { required: true });
const now = useNow();
/** Each timer by itself, soonest first. */
const timers = computed(() =>
  props.board.running
    .flatMap((card) => (card.timers ?? []).map((timer) => ({ card, timer })))
    .map(({ card, timer }) => {
      const left = (Date.parse(timer.ends_at) - now.value) / 1000;
      const to = `/jobs/${card.id}/${stage(timer.stage).path}`;
      return { key: card.id + timer.word + timer.ends_at, card, timer, to, left, over: left <= 0 };
    })
    .sort((a, b) => a.left - b.left)
    .slice(0, 4),
);
const over = computed(() => timers.value.filter((one) => one.over).length);
watch(over, (now, before) => {
  if (now > before) ring();
});
const turn = (to: Tone) => (tone.value = tone.value === to ? '' : to);
</script>

<template>
  <p v-if="board.rebuilding" class="anew" role="status">
    Updating cards to today’s rules: {{ board.rebuilding.of - board.rebuilding.left }} of
    {{ board.rebuilding.of }} jobs.
  </p>
  <section class="head" aria-label="Now">
    <RouterLink v-for="one in timers" :key="one.key" class="cell" :to="one.to">
      <strong class="big running" :class="{ over: one.over }">{{
        one.over ? 'time is up' : clock(one.left)
      }}</strong>
      <span>{{ one.timer.word }}, {{ one.card.machine }}</span>
    </RouterLink>
    <div v-if="!timers.length" class="cell">
      <strong class="big muted">no timer running</strong><span class="muted">nothing running</span>
    </div>
    <button class="cell" type="button" :aria-pressed="tone === 'waiting'" @click="turn('waiting')">
      <strong class="big waiting">{{ board.waiting }}</strong><span>need action</span>
    </button>
    <button class="cell" type="button" :aria-pressed="tone === 'unsure'" @click="turn('unsure')">
      <strong class="big unsure">{{ board.unsure }}</strong><span>inconclusive or doubtful: retest</span>
    </button>
  </section>
</template>

<style scoped>
.anew {
  padding: 6px 22px;
  background: var(--act-soft);
}
.head {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(170px, 1fr));
  background: var(--sheet);
  border-bottom: 1px solid var(--line);
}
.cell {
  border: 0;
  border-right: 1px solid var(--line);
  background: none;
  color: inherit;
  text-decoration: none;
  text-align: left;
  padding: 10px 22px 12px;
  display: flex;
  flex-direction: column;
  min-height: 84px;
}
button.cell {
  cursor: pointer;
}
button[aria-pressed='true'] {
  box-shadow: inset 0 -5px var(--act);
}
.big {
  font-size: 2.1rem;
  line-height: 1.15;
}
.running {
  color: var(--act);
}
.over {
  color: var(--too-much);
}
.waiting {
  color: var(--look);
}
.unsure {
  color: var(--undecided);
}
</style>
