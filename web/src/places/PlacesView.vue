<script setup lang="ts">
import { computed, reactive, ref } from 'vue';
import { refusal } from '@/api/client';
import type { ShelfFeature } from '@/api/types';
import { useDelayed } from '@/domain/useDelayed';
import { useJob } from '@/job/useJob';
import PickOne from '@/shell/PickOne.vue';
import StateLine from '@/shell/StateLine.vue';
import TypedField from '@/shell/TypedField.vue';
import StripFrame from '@/strip/StripFrame.vue';
import StripRow from '@/strip/StripRow.vue';
import FuelBars from './FuelBars.vue';
import FuellingPart from './FuellingPart.vue';
import { usePlaces, type PlacesAsked } from './usePlaces';

/** Which injector goes to which cylinder, and what the set means for the control unit. */
const job = useJob();
const view = computed(() => job.view.value!);
const feature = ref<ShelfFeature | null>(null);
const wants = reactive<Record<number, string>>({});
const typed = reactive({ static_flow: '', dead_time: '', idle: '', full: '', limit: '', two_stroke: false });
const now = computed<PlacesAsked>(() => ({
  feature: feature.value,
  wants: Object.entries(wants)
    .filter(([, percent]) => percent.trim())
    .map(([cylinder, percent]) => ({ cylinder: Number(cylinder), percent })),
  ...typed,
}));
const asked = useDelayed(() => now.value, 250);
const { query, places } = usePlaces(asked);
const wrong = computed(() => (query.error.value ? refusal(query.error.value) : undefined));
const placement = computed(() => places.value?.placement);
/** Cylinders whose injector is not to go back, and that hold no other yet. */
const renewed = computed(() =>
  view.value.seats
    .filter((seat) => job.decision(seat.cylinder)?.decision === 'replace')
    .filter((seat) => !taken.value.includes(seat.injector))
    .map((seat) => seat.cylinder),
);
const taken = computed(() =>
  (view.value.file.events ?? []).flatMap(({ event }) =>
    event.what === 'replaced' ? [event.injector.id] : [],
  ),
);
async function fit(spare: { injector: string; label: string }, cylinder: number) {
  const injector = { id: spare.injector, cylinder, label: spare.label };
  await job.happened({ what: 'replaced', injector, part: 'tested' });
  await query.refetch();
}
const fuelling = computed(() => places.value?.fuelling);
const at = (cylinder: number) => placement.value?.placed.find((one) => one.cylinder === cylinder);
const fuel = (cylinder: number) => fuelling.value?.cylinders.find((one) => one.cylinder === cylinder);
const reach = computed(() =>
  Math.max(
    0.05,
    ...(fuelling.value?.cylinders ?? []).flatMap((one) => [Math.abs(one.idle), Math.abs(one.full)]),
  ),
);
const tenth = (share: number) => {
  const tenths = Math.round(share * 1000) / 10;
  return `${tenths > 0 ? '+' : tenths < 0 ? '−' : ''}${Math.abs(tenths).toFixed(1)} %`;
};
const by = computed({
  get: () => feature.value ?? placement.value?.feature ?? '',
  set: (value) => (feature.value = value as ShelfFeature),
});
const said = ref('');
async function sit() {
  const moved = (placement.value?.placed ?? []).filter((one) => one.cylinder !== one.sits);
  try {
    await job.happened({
      what: 'placed',
      seats: moved.map((one) => ({ injector: one.injector, cylinder: one.cylinder })),
    });
    said.value = '';
  } catch (error) {
    said.value = refusal(error).message;
  }
}
</script>

<template>
  <StateLine
    v-if="!places"
    :loading="query.isPending.value"
    :error="query.error.value"
    @again="query.refetch()"
  />
  <main v-else class="strip-page">
    <section class="strip-part">
      <p class="bench-finding" role="status">
        <strong>{{ placement?.says ?? places.says }}</strong>
        <span v-if="placement?.codes" class="flag">{{ placement.codes }}</span>
      </p>
      <StripFrame
        v-if="placement"
        :banks="view.banks"
        :first-at="view.file.job.intake.layout.first_at"
        :labels="job.labels.value"
        :selected="null"
      >
        <StripRow word="goes in">
          <template #default="{ cylinder }">
            <p
              v-if="at(cylinder)"
              class="goes"
              :class="{ moves: at(cylinder)!.sits !== cylinder, open: at(cylinder)!.share == null }"
            >
              <strong>{{ at(cylinder)!.label || '–' }}</strong>
              <span v-if="at(cylinder)!.sits !== cylinder" class="from"
                >{{ at(cylinder)!.sits }}→{{ cylinder }}</span
              >
              <span v-else class="muted">{{ at(cylinder)!.share == null ? 'not placed' : 'stays' }}</span>
            </p>
          </template>
        </StripRow>
        <StripRow word="gets">
          <template #default="{ cylinder }">
            <p class="gets">
              {{ at(cylinder)?.share == null ? '–' : tenth(at(cylinder)!.share!) }}
            </p>
          </template>
        </StripRow>
        <StripRow word="wants, %">
          <template #default="{ cylinder }">
            <input
              v-model="wants[cylinder]"
              data-cell
              inputmode="decimal"
              placeholder="0"
              :aria-label="`Cylinder ${cylinder} wants more by`"
              :aria-invalid="!!wrong?.about(`want${cylinder}`)"
            />
          </template>
        </StripRow>
        <template v-if="fuelling">
          <StripRow word="at idle">
            <template #default="{ cylinder }">
              <FuelBars v-if="fuel(cylinder)" :one="fuel(cylinder)!" :reach="reach" part="idle" />
            </template>
          </StripRow>
          <StripRow word="full load">
            <template #default="{ cylinder }">
              <FuelBars v-if="fuel(cylinder)" :one="fuel(cylinder)!" :reach="reach" part="full" />
            </template>
          </StripRow>
          <StripRow word="runs">
            <template #default="{ cylinder }">
              <p class="runs" :class="{ risk: fuel(cylinder)?.risk }">{{ fuel(cylinder)?.word ?? '–' }}</p>
            </template>
          </StripRow>
        </template>
      </StripFrame>
    </section>
    <aside>
      <PickOne
        v-if="places.features.length > 1"
        v-model="by"
        word="Placed by"
        :options="places.features.map((one) => ({ value: one.feature, word: one.word }))"
      />
      <button v-if="placement?.moves" class="main-act" type="button" @click="sit">They sit so now</button>
      <p v-if="said" class="wrong" role="alert">{{ said }}</p>
      <p v-if="wrong && !wrong.fields.length" class="wrong" role="alert">{{ wrong.message }}</p>
      <section v-if="places.spares.length">
        <h2>In place of one that does not go back</h2>
        <ol>
          <li v-for="one in places.spares" :key="one.injector">
            <strong>{{ one.label }}</strong> <span class="muted small">job {{ one.job_number }}</span>
            <span class="small">{{ one.says }}</span>
            <button
              v-for="cylinder in renewed"
              :key="cylinder"
              class="link-act"
              type="button"
              @click="fit(one, cylinder)"
            >
              Fit it into {{ cylinder }}
            </button>
          </li>
        </ol>
      </section>
      <FuellingPart
        v-if="places?.asked && (fuelling || places.fuelling_says)"
        :fuelling="fuelling"
        :refused="places.fuelling_says"
        :asked="places.asked"
      >
        <template #typed>
          <TypedField
            v-model="typed.static_flow"
            name="static_flow"
            word="Static flow"
            unit="ml/min"
            :wrong="wrong?.about('static_flow')"
          />
          <TypedField
            v-model="typed.dead_time"
            name="dead_time"
            word="Dead time"
            unit="ms"
            :wrong="wrong?.about('dead_time')"
          />
          <TypedField
            v-model="typed.idle"
            name="idle"
            word="Pulse at idle"
            unit="ms"
            :wrong="wrong?.about('idle')"
          />
          <TypedField
            v-model="typed.full"
            name="full"
            word="Pulse at full load"
            unit="ms"
            :wrong="wrong?.about('full')"
          />
          <TypedField
            v-model="typed.limit"
            name="limit"
            word="Highest speed"
            unit="rpm"
            :wrong="wrong?.about('limit')"
          />
        </template>
      </FuellingPart>
      <RouterLink class="side-act" :to="`/match?job=${job.id.value}`">Make sets from this job</RouterLink>
    </aside>
  </main>
</template>

<style scoped>
.goes,
.gets,
.runs {
  padding: 8px min(10px, calc(8 * var(--cell)));
  display: grid;
}
.goes strong {
  font-size: clamp(0.62rem, calc(21 * var(--cell)), 1.2rem);
}
.goes .muted {
  font-size: clamp(0.68rem, calc(22 * var(--cell)), 1rem);
}
.moves {
  background: var(--act-soft);
  box-shadow: inset 0 -4px 0 var(--act);
}
.from {
  color: var(--act);
  font-weight: 700;
  font-size: clamp(0.85rem, calc(24 * var(--cell)), 1.4rem);
  white-space: nowrap;
}
.open {
  color: var(--muted);
}
.gets {
  font-size: clamp(0.72rem, calc(22 * var(--cell)), 1.3rem);
  white-space: nowrap;
  padding-inline: 4px;
}
.runs {
  font-size: clamp(0.68rem, calc(18 * var(--cell)), 1rem);
}
.risk {
  color: var(--too-much);
  font-weight: 700;
}
ol {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 0 8px;
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
}
li .small:last-child {
  grid-column: 1 / -1;
}
</style>
