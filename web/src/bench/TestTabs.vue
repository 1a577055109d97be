<script setup lang="ts">
import { computed } from 'vue';
import InjectorMark from '@/strip/InjectorMark.vue';
import type { BenchTest, Mark } from '@/api/types';
import { useSession } from './useSession';

/** The tests of this bench in the order of work, each with what it says in this round. */
const props = defineProps<{ test: BenchTest }>();
const session = useSession();
const OUTCOME: Record<string, Mark> = {
  open: 'not_measured',
  clear: 'inside',
  hint: 'look',
  fault: 'too_much',
};
const tabs = computed(() =>
  (session.forms.data.value ?? []).map((form) => {
    const judged = session.judged(session.round.value, form.test)?.verdict;
    // A test that was read in an earlier round is repeated in this one.
    const earlier = session.rounds.value.some((one) => session.judged(one, form.test)?.verdict);
    return { ...form, mark: judged ? OUTCOME[judged.outcome]! : undefined, repeat: !judged && earlier };
  }),
);
</script>

<template>
  <nav class="tests" aria-label="Tests of this bench">
    <RouterLink
      v-for="tab in tabs"
      :key="tab.test"
      :to="`/bench/${session.id.value}/${tab.test}`"
      :class="{ here: tab.test === props.test }"
      :aria-current="tab.test === props.test ? 'page' : undefined"
    >
      <span>{{ tab.short }}</span>
      <span class="mark"><InjectorMark v-if="tab.mark" :mark="tab.mark" :size="18" silent /></span>
      <span v-if="tab.repeat" class="repeat muted">repeat</span>
    </RouterLink>
  </nav>
</template>

<style scoped>
.tests {
  display: flex;
  flex-wrap: wrap;
  gap: 0 2px;
  padding: 0 14px;
  border-bottom: 1px solid var(--line);
}
a {
  display: inline-flex;
  align-items: center;
  position: relative;
  gap: 6px;
  min-height: 50px;
  padding: 0 8px 0 12px;
  color: var(--ink);
  text-decoration: none;
  border-bottom: 4px solid transparent;
}
/* A mark or a word that comes has its place already: no tab moves under a finger. */
.mark {
  width: 18px;
}
.repeat {
  position: absolute;
  left: 12px;
  bottom: 0;
  font-size: 0.72rem;
}
a.here {
  font-weight: 700;
  border-bottom-color: var(--act);
}
</style>
