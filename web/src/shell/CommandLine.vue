<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { ask } from '@/api/client';
import { useDelayed } from '@/domain/useDelayed';
import { PAGES } from '@/help/words';
import { useTheme } from '@/theme/useTheme';
import { addressOf } from '@/library/addressOf';
import { stage as stageOf, STAGES } from '@/words';
import PlainDialog from './PlainDialog.vue';
import { useBench } from './useBench';
import {
  stageJob,
  printPageJob,
  injectorsJob,
  injectorCylinder,
  bookJob,
  setsShelf,
  oneInjectorAllJobs,
  whatEachCanDecide,
  peopleImportJob,
  casesMadeUp,
} from '@/shell/words';

const emit = defineEmits<{ close: []; help: [] }>();
const router = useRouter();
const route = useRoute();
const bench = useBench();
const { turn } = useTheme();
const words = ref('');
const at = ref(0);

interface Command {
  word: string;
  note: string;
  run: () => unknown;
}

const found = useQuery({
  queryKey: computed(() => ['find', words.value.trim()]),
  queryFn: () => ask('get', '/api/board', { params: { query: { per_page: 6, q: words.value.trim() } } }),
  enabled: computed(() => words.value.trim().length > 0),
});

const asked = useDelayed(() => words.value.trim());
const some = computed(() => asked.value.length > 1);
const injectors = useQuery({
  queryKey: computed(() => ['find-injectors', asked.value]),
  queryFn: () => ask('get', '/api/passports', { params: { query: { q: asked.value } } }),
  enabled: some,
});
const library = useQuery({
  queryKey: computed(() => ['find-library', asked.value]),
  queryFn: () => ask('get', '/api/library', { params: { query: { q: asked.value, per_page: 4 } } }),
  enabled: some,
});
const customers = useQuery({
  queryKey: computed(() => ['customers', asked.value, 0]),
  queryFn: () => ask('get', '/api/customers', { params: { query: { q: asked.value } } }),
  enabled: some,
});
const checks = useQuery({
  queryKey: ['sheets', undefined],
  queryFn: () => ask('get', '/api/sheets', { params: { query: {} } }),
  staleTime: Infinity,
});

const calculators = useQuery({
  queryKey: ['calculators'],
  queryFn: () => ask('get', '/api/calculators'),
  staleTime: Infinity,
});

const fixed = computed<Command[]>(() => {
  // Other things have an id as well: a bench session is no job.
  const here = route.path.startsWith('/jobs/') ? route.params.id : undefined;
  const job = typeof here === 'string' ? here : '';
  const stages = job
    ? STAGES.map((stage) => ({
        word: stage.word,
        note: stageJob,
        run: () => router.push(`/jobs/${job}/${stage.path}`),
      }))
    : [];
  const report = job
    ? [
        { word: 'Report', note: printPageJob, run: () => router.push(`/jobs/${job}/report`) },
        {
          word: 'Labels',
          note: injectorsJob,
          run: () => router.push(`/jobs/${job}/labels`),
        },
        { word: 'Trim codes', note: 'of this job', run: () => router.push(`/jobs/${job}/refit/codes`) },
        {
          word: 'Positions and fuelling',
          note: injectorCylinder,
          run: () => router.push(`/jobs/${job}/decide/places`),
        },
      ]
    : [];
  // The checks of this job, by their names.
  const sheets = job
    ? (checks.data.value ?? []).map((form) => ({
        word: form.title,
        note: `check, ${stageOf(form.stage).word.toLowerCase()}`,
        run: () => router.push(`/jobs/${job}/${stageOf(form.stage).path}/${form.id}`),
      }))
    : [];
  return [
    { word: bookJob, note: 'N', run: () => router.push('/jobs/new') },
    { word: 'Job board', note: 'B', run: () => router.push('/') },
    ...stages,
    ...report,
    ...sheets,
    { word: 'Choose your name', note: bench.name.value, run: bench.choose },
    { word: 'Bench sessions', note: 'newest first', run: () => router.push('/bench') },
    { word: 'Match', note: setsShelf, run: () => router.push('/match') },
    { word: 'Injector history', note: oneInjectorAllJobs, run: () => router.push('/passports') },
    { word: 'Customers', note: 'machines and jobs', run: () => router.push('/customers') },
    { word: 'Library', note: 'families, limits, engines', run: () => router.push('/library') },
    { word: 'Import limits', note: 'library', run: () => router.push('/library/file') },
    { word: 'Instruments', note: whatEachCanDecide, run: () => router.push('/instruments') },
    { word: 'Connections', note: 'instruments by address', run: () => router.push('/connections') },
    { word: 'Trainer', note: casesMadeUp, run: () => router.push('/trainer') },
    { word: 'Workshop rules', note: 'defaults and reasons', run: () => router.push('/rules') },
    { word: 'Workshop', note: peopleImportJob, run: () => router.push('/workshop') },
    ...(calculators.data.value ?? []).map((one) => ({
      word: one.title,
      note: 'calculator',
      run: () => router.push(`/calculators/${one.id}`),
    })),
    { word: 'Light or dark', note: 'L', run: turn },
    { word: 'Keyboard shortcuts', note: '?', run: () => emit('help') },
  ];
});

const commands = computed<Command[]>(() => {
  const typed = words.value.trim().toLowerCase();
  const jobs = typed
    ? (found.data.value?.cards ?? []).map((card) => ({
        word: card.machine,
        note: `job ${card.number}, ${card.engine}`,
        run: () => router.push(`/jobs/${card.id}/on-engine`),
      }))
    : [];
  const has = (text: string) => text.toLowerCase().includes(typed);
  const lives = some.value
    ? (injectors.data.value?.lines ?? []).slice(0, 4).map((line) => ({
        word: line.label,
        note: `injector, ${line.machine}`,
        run: () => router.push(`/passports/${line.injector}`),
      }))
    : [];
  const entries = some.value
    ? (library.data.value?.lines ?? []).slice(0, 4).map((line) => ({
        word: line.title,
        note: 'library',
        run: () => router.push(addressOf(line)),
      }))
    : [];
  const people = some.value
    ? (customers.data.value?.lines ?? []).slice(0, 4).map(({ customer }) => ({
        word: customer.name,
        note: `customer ${customer.phone}`.trim(),
        run: () => router.push(`/customers/${customer.id}`),
      }))
    : [];
  const help = typed
    ? PAGES.filter((one) => has(`${one.title} ${one.terms.join(' ')}`)).map((one) => ({
        word: one.title,
        note: 'help',
        run: () => router.push(`/help#${one.id}`),
      }))
    : [];
  const first = fixed.value.filter((one) => has(one.word));
  return [...first, ...jobs, ...people, ...lives, ...entries, ...help].slice(0, 14);
});

watch(words, () => (at.value = 0));

function move(by: number) {
  const count = commands.value.length;
  if (count) at.value = (at.value + by + count) % count;
}

function run(command: Command | undefined) {
  if (!command) return;
  emit('close');
  command.run();
}
</script>

<template>
  <PlainDialog title="Find or do" @close="$emit('close')">
    <input
      v-model="words"
      aria-label="Find a job or do something"
      autocomplete="off"
      autofocus
      @keydown.down.prevent="move(1)"
      @keydown.up.prevent="move(-1)"
      @keydown.enter.prevent="run(commands[at])"
    />
    <ul>
      <li v-for="(command, i) in commands" :key="command.word + command.note">
        <button type="button" :class="{ at: i === at }" @click="run(command)">
          <span>{{ command.word }}</span><span class="muted small">{{ command.note }}</span>
        </button>
      </li>
    </ul>
    <p v-if="!commands.length" class="muted">No match found.</p>
  </PlainDialog>
</template>

<style scoped>
input {
  min-height: 52px;
  font-size: 1.2rem;
  border: 2px solid var(--act);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 12px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li button {
  width: 100%;
  min-height: 44px;
  display: flex;
  justify-content: space-between;
  align-items: center;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: none;
  cursor: pointer;
  padding: 0 10px;
  text-align: left;
}
li button.at {
  background: var(--act-soft);
}
</style>
