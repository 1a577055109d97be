<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { ask } from '@/api/client';
import { useTheme } from '@/theme/useTheme';
import { STAGES } from '@/words';
import PlainDialog from './PlainDialog.vue';
import { useBench } from './useBench';

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
        note: 'stage of this job',
        run: () => router.push(`/jobs/${job}/${stage.path}`),
      }))
    : [];
  const report = job
    ? [
        { word: 'Report', note: 'print page of this job', run: () => router.push(`/jobs/${job}/report`) },
        {
          word: 'Labels',
          note: 'of the injectors of this job',
          run: () => router.push(`/jobs/${job}/labels`),
        },
        { word: 'Codes', note: 'of this job', run: () => router.push(`/jobs/${job}/refit/codes`) },
        {
          word: 'Places and fuelling',
          note: 'which injector to which cylinder',
          run: () => router.push(`/jobs/${job}/decide/places`),
        },
      ]
    : [];
  return [
    { word: 'Take in a job', note: 'N', run: () => router.push('/jobs/new') },
    { word: 'Board', note: 'B', run: () => router.push('/') },
    ...stages,
    ...report,
    { word: 'Who is at the bench', note: bench.name.value, run: bench.choose },
    { word: 'Benches', note: 'sessions, newest first', run: () => router.push('/bench') },
    { word: 'Match', note: 'sets from the shelf', run: () => router.push('/match') },
    { word: 'Passports', note: 'one injector, all its jobs', run: () => router.push('/passports') },
    { word: 'Library', note: 'families, limits, engines', run: () => router.push('/library') },
    { word: 'Limits from a file', note: 'library', run: () => router.push('/library/file') },
    { word: 'Instruments', note: 'can it decide?', run: () => router.push('/instruments') },
    { word: 'House rules', note: 'defaults and reasons', run: () => router.push('/rules') },
    { word: 'Workshop', note: 'people, import a job', run: () => router.push('/workshop') },
    ...(calculators.data.value ?? []).map((one) => ({
      word: one.title,
      note: 'calculator',
      run: () => router.push(`/calculators/${one.id}`),
    })),
    { word: 'Bright or dim', note: 'L', run: turn },
    { word: 'Keys of this screen', note: '?', run: () => emit('help') },
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
  return [...fixed.value.filter((one) => one.word.toLowerCase().includes(typed)), ...jobs].slice(0, 12);
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
    <p v-if="!commands.length" class="muted">Nothing is called that.</p>
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
