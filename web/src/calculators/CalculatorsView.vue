<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import PickOne from '@/shell/PickOne.vue';
import ShelfNav from '@/shell/ShelfNav.vue';
import StateLine from '@/shell/StateLine.vue';
import TypedField from '@/shell/TypedField.vue';
import { sayHeadline } from '@/shell/useHeadline';
import { useKeys } from '@/shell/useKeys';
import WorkedAnswer from './WorkedAnswer.vue';
import { useCalculator } from './useCalculator';
import { liveYouTypeShare } from '@/calculators/words';

/** Numbers of the trade in ten seconds, without a job. */
const router = useRouter();
const { all, id, one, typed, wrong, answer } = useCalculator();
sayHeadline('Calculators', liveYouTypeShare);
const list = computed(() => all.data.value ?? []);
const copied = ref(false);

async function pass() {
  await navigator.clipboard.writeText(location.href).catch(() => undefined);
  copied.value = true;
  setTimeout(() => (copied.value = false), 2000);
}

function step(by: number) {
  const at = list.value.findIndex((calculator) => calculator.id === id.value);
  const next = list.value[(at + by + list.value.length) % list.value.length];
  if (next) void router.push(`/calculators/${next.id}`);
}
useKeys([
  { key: '[', word: 'previous calculator', run: () => step(-1) },
  { key: ']', word: 'next calculator', run: () => step(1) },
]);
</script>

<template>
  <main>
    <div class="top"><ShelfNav /></div>
    <StateLine
      v-if="!list.length"
      :loading="all.isPending.value"
      :error="all.error.value"
      empty=""
      @again="all.refetch()"
    />
    <div v-else class="calculators">
      <ul>
        <li v-for="calculator in list" :key="calculator.id">
          <RouterLink :to="`/calculators/${calculator.id}`">{{ calculator.title }}</RouterLink>
        </li>
      </ul>
      <form v-if="one" class="fields" :aria-label="one.title" @submit.prevent>
        <h1>{{ one.title }}</h1>
        <p class="muted">{{ one.says }}</p>
        <template v-for="field in one.fields" :key="one.id + field.name">
          <PickOne
            v-if="field.choices.length"
            v-model="typed[field.name]!"
            :word="field.word"
            :options="field.choices"
          />
          <TypedField
            v-else
            v-model="typed[field.name]!"
            large
            :name="field.name"
            :word="field.optional ? `${field.word} (if known)` : field.word"
            :unit="field.unit"
            :wrong="wrong?.about(field.name)"
            :read-as="answer?.read_as[field.name]"
          />
        </template>
      </form>
      <section v-if="one" class="answer" aria-live="polite">
        <WorkedAnswer :answer="answer" :wrong="wrong" />
        <button class="side-act" type="button" @click="pass">
          {{ copied ? 'Link copied' : 'Copy link' }}
        </button>
      </section>
      <p v-else class="pick muted">Choose a calculator on the left.</p>
    </div>
  </main>
</template>

<style scoped>
.top {
  padding: 0 10px;
  border-bottom: 1px solid var(--line);
}
.calculators {
  display: grid;
  grid-template-columns: 262px minmax(0, 1fr) 430px;
  min-height: calc(100vh - 102px);
}
ul {
  list-style: none;
  margin: 0;
  padding: 8px 0;
  border-right: 1px solid var(--line);
}
li a {
  display: flex;
  align-items: center;
  min-height: 48px;
  padding: 4px 22px;
  color: var(--ink);
  text-decoration: none;
  border-left: 6px solid transparent;
}
li a.router-link-active {
  border-left-color: var(--act);
  background: var(--act-soft);
  font-weight: 700;
}
.fields {
  display: grid;
  gap: 12px;
  align-content: start;
  padding: 18px 26px;
  max-width: 620px;
}
.answer {
  background: var(--sheet);
  border-left: 1px solid var(--line);
  padding: 18px 24px;
  display: flex;
  flex-direction: column;
  gap: 12px;
  align-items: flex-start;
}
.pick {
  padding: 30px;
}
@media (max-width: 1100px) {
  .calculators {
    grid-template-columns: 200px minmax(0, 1fr);
  }
  ul {
    grid-row: 1 / 3;
  }
  .answer {
    grid-column: 2;
    border-left: 0;
    border-top: 1px solid var(--line);
  }
}
</style>
