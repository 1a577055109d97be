<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { ask } from '@/api/client';
import type { CaseView, ExerciseView, Level, SkillMark } from '@/api/types';
import ShelfNav from '@/shell/ShelfNav.vue';
import StateLine from '@/shell/StateLine.vue';
import { useBench } from '@/shell/useBench';
import { sayHeadline } from '@/shell/useHeadline';
import { usePeople } from '@/shell/usePeople';
import { LEVEL } from '@/words';
import MarkBars from './MarkBars.vue';
import { takeUp } from './useExercise';
import { noExercises, notACase, notMarked, pastCases, seedHint, setByOther, trainerSays } from './words';

/** The trainer: cases to take up or to set, and what came of those before. */
sayHeadline('Trainer', trainerSays);
const router = useRouter();
const cache = useQueryClient();
const bench = useBench();
const { active } = usePeople();
const others = computed(() => active.value.filter((one) => one.id !== bench.id.value));
const mine = ref(true);
const learner = computed(() => (mine.value && bench.id.value ? bench.id.value : undefined));
const query = useQuery({
  queryKey: computed(() => ['trainer', learner.value, 0]),
  queryFn: () => ask('get', '/api/trainer', { params: { query: { learner: learner.value, per_page: 30 } } }),
});
const cases = computed(() => query.data.value?.cases ?? []);
const exercises = computed(() => query.data.value?.exercises ?? []);
const marked = computed(() => exercises.value.flatMap((one) => (one.line.marks ? [one.line.marks] : [])));
/** How far a skill is: the mean of the last five cases. */
const progress = computed<SkillMark[]>(() => {
  const last = marked.value.slice(0, 5);
  return (last[0] ?? []).map(({ skill }) => ({
    skill,
    mark: Math.round(
      last.reduce((sum, list) => sum + (list.find((one) => one.skill === skill)?.mark ?? 0), 0) / last.length,
    ),
  }));
});
const named = (one: CaseView) => (one.case.kind === 'written' ? one.case.name : '');
const doneOf = (one: CaseView) =>
  exercises.value.find(
    (held) =>
      held.line.marks &&
      held.line.exercise.case.kind === 'written' &&
      held.line.exercise.case.name === named(one),
  );
const worst = (one: ExerciseView) => Math.min(...(one.line.marks ?? []).map((mark) => mark.mark));

const level = ref<Level>('one_fault');
const seed = ref(String(Math.floor(Math.random() * 900_000) + 100_000));
const guided = ref(true);
const setFor = ref('');
const wrong = ref('');

async function start(of: object) {
  const id = await takeUp({ case: of, guided: guided.value, learner: setFor.value || null }, wrong);
  if (!id) return;
  if (!setFor.value) return router.push(`/jobs/${id}/take-in/plan`);
  // A list that was asked for before the case was made, and has not come yet, does not know it.
  await cache.cancelQueries({ queryKey: ['trainer'] });
  await cache.invalidateQueries({ queryKey: ['trainer'] });
}
const drawn = () => start({ kind: 'drawn', seed: Number(seed.value), level: level.value });

function save(one: ExerciseView) {
  const text = JSON.stringify(
    { format: 'cobaltine-case', version: 1, case: one.line.exercise.case },
    null,
    2,
  );
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type: 'application/json' }));
  link.download = `case-${one.line.exercise.case.kind === 'drawn' ? one.line.exercise.case.seed : one.line.exercise.case.name}.json`;
  link.click();
  URL.revokeObjectURL(link.href);
}
async function load(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0];
  if (!file) return;
  try {
    const read: unknown = JSON.parse(await file.text());
    const held = read as { format?: string; case?: object };
    if (held.format !== 'cobaltine-case' || !held.case) throw new Error();
    await start(held.case);
  } catch {
    wrong.value = notACase;
  }
}
</script>

<template>
  <main>
    <div class="top"><ShelfNav /></div>
    <StateLine
      v-if="!query.data.value"
      :loading="query.isPending.value"
      :error="query.error.value"
      @again="query.refetch()"
    />
    <div v-else class="trainer">
      <section aria-label="Cases">
        <h2>Ten cases, from the first return test on</h2>
        <ol class="cases">
          <li v-for="(one, i) in cases" :key="named(one)">
            <button type="button" :class="{ done: doneOf(one) }" @click="start(one.case)">
              <span class="nth">{{ i + 1 }}</span>
              <span class="what">
                <strong>{{ one.title }}</strong>
                <span class="muted">{{ LEVEL[one.level] }}, {{ one.machine }}</span>
              </span>
              <span v-if="doneOf(one)" class="mark" :class="{ low: worst(doneOf(one)!) < 60 }">
                <span class="small muted">weakest</span>
                {{ worst(doneOf(one)!) }}
              </span>
            </button>
          </li>
        </ol>
      </section>
      <aside aria-label="Own case">
        <h2>Draw a case</h2>
        <form class="draw" @submit.prevent="drawn">
          <label for="case-level">Level</label>
          <select id="case-level" v-model="level">
            <option v-for="(word, id) in LEVEL" :key="id" :value="id">{{ word }}</option>
          </select>
          <label for="case-seed">Seed</label>
          <input id="case-seed" v-model="seed" inputmode="numeric" maxlength="9" :title="seedHint" />
          <label for="case-for">For</label>
          <select id="case-for" v-model="setFor">
            <option value="">myself</option>
            <option v-for="one in others" :key="one.id" :value="one.id">{{ one.name }}</option>
          </select>
          <label class="wide"><input v-model="guided" type="checkbox" /> Tell mistakes at once</label>
          <button class="main-act wide" type="submit" :disabled="!/^\d{1,9}$/.test(seed)">Start case</button>
          <label class="side-act wide file">
            Import case
            <input type="file" accept="application/json,.json" @change="load" />
          </label>
        </form>
        <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
        <h2>
          Progress
          <span v-if="marked.length" class="muted small">{{ pastCases(Math.min(5, marked.length)) }}</span>
        </h2>
        <MarkBars v-if="progress.length" :marks="progress" :earlier="marked" />
        <p v-if="!exercises.length" class="muted">{{ noExercises }}</p>
        <ul class="past">
          <li v-for="one in exercises.slice(0, 6)" :key="one.line.job">
            <RouterLink :to="`/jobs/${one.line.job}/${one.line.marks ? 'exercise' : 'take-in/plan'}`">
              <strong>{{ one.title }}</strong>
              <span class="muted small">
                {{ mine ? LEVEL[one.level] : one.learner
                }}{{ one.set_by ? `, ${setByOther(one.set_by)}` : '' }}
              </span>
              <span class="at">{{ one.line.marks ? worst(one) : notMarked }}</span>
            </RouterLink>
            <button
              class="link-act"
              type="button"
              :aria-label="`Export case ${one.title}`"
              @click="save(one)"
            >
              Export case
            </button>
          </li>
        </ul>
        <button class="link-act" type="button" @click="mine = !mine">
          {{ mine ? 'Show everybody’s exercises' : 'Show own exercises' }}
        </button>
      </aside>
    </div>
  </main>
</template>

<style scoped>
.top {
  padding: 0 22px;
  border-bottom: 1px solid var(--line);
}
.trainer {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 370px;
  gap: 30px;
  padding: 18px 22px 40px;
}
.cases {
  list-style: none;
  margin: 10px 0 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 8px;
}
.cases button {
  width: 100%;
  min-height: 82px;
  display: grid;
  grid-template-columns: 44px minmax(0, 1fr) auto;
  gap: 14px;
  align-items: center;
  padding: 8px 14px;
  text-align: left;
  border: 2px solid var(--edge);
  background: var(--sheet);
  color: var(--ink);
  cursor: pointer;
  font: inherit;
}
.cases button.done {
  border-color: var(--inside);
}
.nth {
  height: 44px;
  display: grid;
  place-items: center;
  padding-bottom: 8px;
  background: var(--ink);
  color: var(--sheet);
  font-weight: 700;
  font-size: 1.2rem;
  clip-path: polygon(0 0, 100% 0, 100% 55%, 50% 100%, 0 55%);
}
.what {
  display: grid;
  line-height: 1.25;
}
.what strong {
  font-size: 1.15rem;
}
.mark {
  display: grid;
  justify-items: end;
  line-height: 1.1;
  font-size: 1.5rem;
  font-weight: 700;
  color: var(--inside);
}
.mark .small {
  font-weight: 400;
}
.mark.low {
  color: var(--look);
}
aside {
  display: grid;
  gap: 12px;
  align-content: start;
}
.draw {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 8px 14px;
  align-items: center;
}
.draw :is(select, input:not([type='checkbox'], [type='file'])) {
  min-height: 48px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  color: var(--ink);
  font: inherit;
  padding: 0 10px;
}
.wide {
  grid-column: 1 / -1;
  min-height: 44px;
  display: flex;
  align-items: center;
  gap: 10px;
}
.file input {
  position: absolute;
  opacity: 0;
  width: 1px;
}
.file:focus-within {
  outline: 3px solid var(--act);
}
.past {
  list-style: none;
  margin: 0;
  padding: 0;
}
.past li {
  display: flex;
  gap: 10px;
  align-items: center;
  border-bottom: 1px solid var(--line);
}
.past a {
  flex: 1;
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  min-height: 52px;
  align-content: center;
  color: var(--ink);
  text-decoration: none;
  line-height: 1.2;
}
.past .at {
  grid-row: 1 / 3;
  grid-column: 2;
  align-self: center;
  font-weight: 700;
}
@media (max-width: 1000px) {
  .trainer {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 700px) {
  .cases {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
