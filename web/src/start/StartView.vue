<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { refusal } from '@/api/client';
import { act } from '@/api/outbox';
import { newId } from '@/domain/identity';
import { useBench } from '@/shell/useBench';
import { sayHeadline } from '@/shell/useHeadline';
import ProfileForm from './ProfileForm.vue';
import { useDemo } from './useDemo';
import { useProfile } from './useProfile';
import { takeUp } from '@/trainer/useExercise';
import { tryIt, tryItSays } from '@/trainer/words';
import STARTER from './starter.csv?raw';
import { BOTTLES, FLUIDS } from './words';

/** The first hour of an empty workshop: four steps, the demo beside them. */
sayHeadline('First steps', '');
const router = useRouter();
const bench = useBench();
const demo = useDemo();
const { steps, done, dismissed, refresh, held } = useProfile();
const open = ref('');
/** The step in hand: the one that was opened, else the first that is not done. */
const here = computed(() => open.value || steps.value.find((one) => !one.done)?.id || 'job');
// Each step is ready to be typed into, or to be pressed.
watch(
  here,
  () =>
    void nextTick(() =>
      document.querySelector<HTMLElement>('.start .body :is(input, .main-act):not(:disabled)')?.focus(),
    ),
  { immediate: true },
);
const name = ref('');
const wrong = ref('');
const busy = ref(false);

async function add() {
  try {
    bench.sit(await act('post', '/api/people', { body: { id: newId(), name: name.value } }));
    wrong.value = '';
    open.value = '';
    await refresh();
  } catch (error) {
    wrong.value = refusal(error).about('name') || refusal(error).message;
  }
}
async function load() {
  busy.value = true;
  try {
    const body = { format: 'csv' as const, text: STARTER, leave_out_bad_rows: false };
    await act('post', '/api/library/import', { body });
    for (const one of BOTTLES) {
      const rest = { accuracy_pct: '2', accuracy_digits: '', lead: '', calibration_due: '', certificate: '' };
      await act('put', '/api/instruments', {
        body: { id: newId(), revision: 0, kind: 'bottles', ...one, ...rest },
      });
    }
    for (const one of FLUIDS) {
      await act('put', '/api/library/presets', {
        body: { id: newId(), revision: 0, check: 'cleaning', ...one },
      });
    }
    wrong.value = '';
    open.value = 'job';
    await refresh();
  } catch (error) {
    wrong.value = refusal(error).message;
  }
  busy.value = false;
}
/** The first written case, guided; it stands in no list of the workshop. */
async function tryOne() {
  const first = { kind: 'written', name: 'first_return_test' };
  const id = await takeUp({ case: first, guided: true }, wrong);
  if (id) await router.push(`/jobs/${id}/take-in/plan`);
}
function dismiss() {
  dismissed.value = true;
  void router.push('/');
}
</script>

<template>
  <main class="start">
    <section class="steps" aria-label="First steps">
      <h1>Set up this workshop</h1>
      <p class="muted">{{ done }} of {{ steps.length }} done. Any step can wait.</p>
      <ol>
        <li v-for="(step, i) in steps" :key="step.id" :class="{ here: here === step.id, done: step.done }">
          <button class="head" type="button" :aria-expanded="here === step.id" @click="open = step.id">
            <span class="place" aria-hidden="true">{{ step.done ? '✓' : i + 1 }}</span>
            <span>{{ step.word }}</span>
            <span v-if="step.done" class="muted small">done</span>
          </button>
          <div v-if="here === step.id" class="body">
            <form v-if="step.id === 'name'" class="row" @submit.prevent="add">
              <label for="first-name">Your name signs every entry</label>
              <input id="first-name" v-model="name" autocomplete="off" autofocus />
              <button class="main-act" type="submit">Add name</button>
              <button v-if="held?.people" class="side-act" type="button" @click="bench.choose">
                Choose name
              </button>
            </form>
            <ProfileForm v-else-if="step.id === 'workshop'" @done="open = ''" />
            <template v-else-if="step.id === 'library'">
              <p>
                Five generic families by class of coil, two bottle sets and two cleaning fluids, each marked
                as a house value. Makers’ limits come from your own sources.
              </p>
              <p class="row">
                <button class="main-act" type="button" :disabled="busy || step.done" @click="load">
                  Load starter library
                </button>
                <RouterLink class="side-act" to="/library/file">Import own limits</RouterLink>
                <button class="link-act" type="button" @click="open = 'job'">Skip step</button>
              </p>
            </template>
            <p v-else class="row">
              <RouterLink class="main-act" to="/jobs/new">Book in the first job</RouterLink>
            </p>
            <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
          </div>
        </li>
      </ol>
      <button class="link-act" type="button" @click="dismiss">Close first steps</button>
    </section>
    <aside aria-label="Demo workshop">
      <h2>Learn first</h2>
      <p>{{ tryItSays }}</p>
      <p>
        <button class="side-act" type="button" @click="tryOne">{{ tryIt }}</button>
      </p>
      <h2>Look around first</h2>
      <p>
        The demo workshop holds thirty-two made-up jobs at every stage. It runs beside this one, in a folder
        of its own: nothing of it ever mixes with your jobs.
      </p>
      <p v-if="demo.offered.value">
        <button class="side-act" type="button" :disabled="demo.busy.value" @click="demo.open">
          {{ demo.busy.value ? 'Opening demo workshop…' : 'Open demo workshop' }}
        </button>
      </p>
      <p v-if="demo.wrong.value" class="wrong" role="alert">{{ demo.wrong.value }}</p>
      <p>
        Press <span class="key">?</span> on any screen for help, or open the
        <RouterLink to="/help">handbook</RouterLink>.
      </p>
    </aside>
  </main>
</template>

<style scoped>
.start {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 330px;
  gap: 30px;
  padding: 24px 22px 40px;
  max-width: 1150px;
}
ol {
  list-style: none;
  margin: 14px 0;
  padding: 0;
}
li {
  border-left: 5px solid var(--rest);
  background: var(--sheet);
  margin-bottom: 8px;
}
li.here {
  border-left-color: var(--act);
}
li.done {
  border-left-color: var(--inside);
}
.head {
  display: flex;
  gap: 14px;
  align-items: center;
  width: 100%;
  min-height: 56px;
  padding: 0 16px;
  border: 0;
  background: none;
  cursor: pointer;
  font-size: 1.15rem;
  font-weight: 700;
  text-align: left;
}
.place {
  flex: none;
  width: 34px;
  height: 34px;
  border: 2px solid var(--ink);
  display: grid;
  place-items: center;
  clip-path: polygon(0 0, 100% 0, 100% 55%, 50% 100%, 0 55%);
  background: var(--ink);
  color: var(--sheet);
  font-size: 0.95rem;
  padding-bottom: 6px;
}
.done .place {
  background: var(--inside);
}
.body {
  padding: 4px 16px 18px 64px;
  display: grid;
  gap: 10px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}
.row input {
  min-height: 52px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 12px;
  font-size: 1.15rem;
}
aside {
  border-top: 6px solid var(--ink);
  padding-top: 14px;
  display: grid;
  gap: 12px;
  align-content: start;
}
code {
  overflow-wrap: anywhere;
}
@media (max-width: 900px) {
  .start {
    grid-template-columns: 1fr;
  }
  .body {
    padding-left: 16px;
  }
}
</style>
