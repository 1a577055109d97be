<script setup lang="ts">
import { computed } from 'vue';
import type { Ranked } from '@/api/types';
import { likely, place, weight } from './scale';

/**
 * One cause on a scale of belief. A hollow ring stands where the story put it before anything was
 * measured; each reading pushes it on, to the right for and to the left against; last, what other
 * causes explain as well or better. The needle stands where it is now. Right of the line it is acted upon.
 */
const props = defineProps<{ ranked: Ranked; act: number; open: boolean }>();
defineEmits<{ toggle: [] }>();
const counts = computed(() => props.ranked.evidence.filter((one) => one.counts && one.kind !== 'told'));
const besides = computed(() => props.ranked.evidence.filter((one) => !one.counts));
const told = computed(() => props.ranked.evidence.filter((one) => one.kind === 'told'));
/** Each push, from where to where, one below the other. */
const pushes = computed(() => {
  let odds = props.ranked.before / (1 - props.ranked.before);
  return counts.value.map((one) => {
    const from = place(odds / (1 + odds));
    odds *= one.factor;
    const to = place(odds / (1 + odds));
    const [left, width] = [Math.min(from, to), Math.max(Math.abs(to - from), 0.004)];
    return { left, width, against: one.factor < 1, others: one.kind === 'others' };
  });
});
const percent = (share: number) => `${share * 100}%`;
const acted = computed(() => props.ranked.cause && props.ranked.p >= props.act);
</script>

<template>
  <article :class="{ acted, sound: !ranked.cause }">
    <button type="button" class="cause" :aria-expanded="open" @click="$emit('toggle')">
      <span class="word">{{ ranked.word }}</span>
      <span class="p">{{ likely(ranked.p) }}</span>
    </button>
    <div class="scale" aria-hidden="true">
      <span class="act" :style="{ left: percent(place(act)) }"></span>
      <span class="before" :style="{ left: percent(place(ranked.before)) }"></span>
      <span
        v-for="(push, i) in pushes"
        :key="i"
        class="push"
        :class="{ against: push.against, others: push.others }"
        :style="{ left: percent(push.left), width: percent(push.width), top: `${6 + i * 5}px` }"
      ></span>
      <span class="needle" :style="{ left: percent(place(ranked.p)) }"></span>
    </div>
    <ul v-if="open">
      <li v-for="(one, i) in counts" :key="i">
        <strong :class="{ against: one.factor < 1 }">{{ weight(one.factor) }}</strong>
        <span
          >{{ one.says }}
          <em v-if="one.lacks">({{ one.lacks }}){{ ' ' }}</em>
          <span class="muted">{{ one.reason }}</span></span
        >
      </li>
      <li v-for="(one, i) in told" :key="`t${i}`">
        <strong :class="{ against: one.factor < 1 }">{{ weight(one.factor) }}</strong>
        <span
          >{{ one.says }}. <span class="muted">{{ one.reason }}</span></span
        >
      </li>
      <li v-for="(one, i) in besides" :key="`b${i}`" class="muted">
        <span>–</span><span>{{ one.says }} Same question as a better reading: not counted.</span>
      </li>
      <li class="muted">
        <span>{{ likely(ranked.before) }}</span><span>before any measurement. {{ ranked.prior_reason }}</span>
      </li>
    </ul>
  </article>
</template>

<style scoped>
article {
  border-bottom: 1px solid var(--line);
  padding: 2px 0 6px;
}
.cause {
  display: flex;
  width: 100%;
  min-height: 34px;
  align-items: baseline;
  justify-content: space-between;
  border: 0;
  background: none;
  padding: 4px 0 0;
  text-align: left;
  cursor: pointer;
}
.word::first-letter {
  text-transform: uppercase;
}
.acted .word,
.acted .p {
  font-weight: 700;
}
.acted .p {
  font-size: 1.25rem;
}
.scale {
  position: relative;
  height: 26px;
  background: linear-gradient(var(--line), var(--line)) 0 100% / 100% 1px no-repeat;
}
.act {
  position: absolute;
  top: 0;
  bottom: 0;
  border-left: 2px dashed var(--ink);
}
.before {
  position: absolute;
  top: 2px;
  width: 11px;
  height: 11px;
  margin-left: -5.5px;
  border: 2px solid var(--muted);
  border-radius: 50%;
  background: var(--paper);
}
.push {
  position: absolute;
  height: 4px;
  background: var(--too-much);
}
.push.against {
  background: repeating-linear-gradient(90deg, var(--inside) 0 4px, transparent 4px 7px);
}
.push.others {
  background: repeating-linear-gradient(90deg, var(--muted) 0 2px, transparent 2px 5px);
}
.sound .push {
  background: var(--inside);
}
.needle {
  position: absolute;
  bottom: 0;
  margin-left: -7px;
  border: 7px solid transparent;
  border-top: 0;
  border-bottom: 12px solid var(--ink);
}
.sound .needle {
  border-bottom-color: var(--inside);
}
ul {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
  font-size: 0.85rem;
}
li {
  display: grid;
  grid-template-columns: 52px 1fr;
  gap: 6px;
  padding: 2px 0;
}
li strong {
  color: var(--too-much);
}
li strong.against {
  color: var(--inside);
}
</style>
