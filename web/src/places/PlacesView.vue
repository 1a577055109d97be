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
import FuellingPart from './FuellingPart.vue';
import PlacedRows from './PlacedRows.vue';
import SpareList from './SpareList.vue';
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
const fuelling = computed(() => places.value?.fuelling);
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
        <PlacedRows v-model:wants="wants" :placement="placement" :fuelling="fuelling" :wrong="wrong" />
      </StripFrame>
    </section>
    <aside aria-label="Placing">
      <PickOne
        v-if="places.features.length > 1"
        v-model="by"
        word="Order by"
        :options="places.features.map((one) => ({ value: one.feature, word: one.word }))"
      />
      <button v-if="placement?.moves" class="main-act" type="button" @click="sit">Save positions</button>
      <p v-if="said" class="wrong" role="alert">{{ said }}</p>
      <p v-if="wrong && !wrong.fields.length" class="wrong" role="alert">{{ wrong.message }}</p>
      <SpareList v-if="places.spares.length" :spares="places.spares" @fitted="query.refetch()" />
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
