<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { MadeSet } from '@/api/types';
import { newId } from '@/domain/identity';
import PlainDialog from '@/shell/PlainDialog.vue';
import ShelfNav from '@/shell/ShelfNav.vue';
import StateLine from '@/shell/StateLine.vue';
import { useKeys } from '@/shell/useKeys';
import { sayHeadline } from '@/shell/useHeadline';
import KeptSets from './KeptSets.vue';
import LeftOver from './LeftOver.vue';
import MatchForm from './MatchForm.vue';
import MatchSays from './MatchSays.vue';
import SetCard from './SetCard.vue';
import ShelfRows from './ShelfRows.vue';
import { useMatching } from './useMatching';
import { useShelf } from './useShelf';
import { useWishes } from './useWishes';
import { setsShelfTestedInjectors } from '@/match/words';

/** Sets from the shelf: what is on it, what was made, what is left and why. */
const route = useRoute();
const router = useRouter();
sayHeadline('Match', setsShelfTestedInjectors);
const job = computed(() => (typeof route.query.job === 'string' ? route.query.job : null));
const { families, at, page, family, shelf, refresh } = useShelf(job);
const view = computed(() => shelf.data.value);
const { wishes, use, used, bind, loose, group } = useWishes(computed(() => family.value?.family));
const { view: work, wrong, begin, stop } = useMatching();
const size = ref(4);
const by = reactive<Record<string, boolean>>({});
const typed = reactive<Record<string, string>>({});
/** What was asked when the sets that are shown were made. */
const asked = ref<{ features: { feature: string; tolerance: string }[] }>({ features: [] });
watch(
  () => view.value?.features,
  (features) => {
    // What most of the shelf has is taken to begin with, at the tolerance of the house.
    for (const one of features ?? []) {
      typed[one.feature] ??= String(one.tolerance);
      by[one.feature] ??= one.measured * 5 > (view.value?.total ?? 0) * 4;
    }
  },
  { immediate: true },
);
watch(family, () => (work.value = undefined));
const features = computed(() => view.value?.features ?? []);
const result = computed(() => work.value?.result);
const running = computed(() => work.value?.state === 'running');
const pages = computed(() => Math.ceil((view.value?.total ?? 0) / (view.value?.per_page ?? 30)));
/** Hairs of the combs: what this page of the shelf and the sets have. */
const hairs = computed(() =>
  asked.value.features.map((one, k) => [
    ...(view.value?.lines ?? []).flatMap(
      (line) => line.values.find((v) => v.feature === one.feature)?.value ?? [],
    ),
    ...(result.value?.sets ?? []).flatMap((set) => set.members.flatMap((member) => member.values[k] ?? [])),
  ]),
);
const name = (i: number) => `Set ${'ABCDEFGHIJKLMNOPQRSTUVWXYZ'[i] ?? i + 1}`;

async function make() {
  if (!family.value) return;
  const chosen = features.value
    .filter((one) => by[one.feature] && one.measured > 0)
    .map((one) => ({ feature: one.feature, tolerance: typed[one.feature] ?? '' }));
  asked.value = { features: chosen };
  await begin({
    kind: family.value.kind,
    family: family.value.family,
    job: job.value,
    features: chosen,
    size: size.value,
    together: wishes.value.together,
    excluded: wishes.value.out,
    brought_in: wishes.value.in,
  });
}
const refused = ref('');
async function change(done: () => Promise<unknown>) {
  try {
    await done();
    refused.value = '';
    await refresh();
    if (work.value) await make();
  } catch (error) {
    refused.value = refusal(error).message;
  }
}
/** A set of more than one owner asks first: nobody's injectors go into somebody else's engine by a slip. */
const mixed = ref<MadeSet>();
function keep(set: MadeSet, owners_agree = false) {
  if (set.owners.length > 1 && !owners_agree) {
    mixed.value = set;
    return;
  }
  mixed.value = undefined;
  void change(() => {
    const { kind, family: name } = family.value!;
    const members = set.members.map((one) => one.injector);
    const body = { id: newId(), kind, family: name, members, note: '', owners_agree };
    return act('post', '/api/shelf/sets', { body });
  });
}
const apart = (set: string) =>
  change(() => act('post', '/api/shelf/sets/{set}/apart', { params: { path: { set } } }));
useKeys([{ key: 'm', word: 'make sets', run: () => void make() }]);
</script>

<template>
  <main>
    <div class="tools"><ShelfNav /></div>
    <StateLine
      v-if="!families.data.value?.length || !view"
      :loading="families.isPending.value || shelf.isPending.value"
      :error="families.error.value ?? shelf.error.value"
      empty="No injectors on the shelf yet. Test some on a bench first."
      @again="families.refetch()"
    />
    <div v-else class="match">
      <MatchForm
        v-model:at="at"
        v-model:size="size"
        v-model:by="by"
        v-model:typed="typed"
        :families="families.data.value"
        :features="features"
        :running="running"
        :wrong="wrong"
        :job="!!job"
        @make="make"
        @stop="stop"
        @whole="router.replace('/match')"
      />
      <section class="answer" aria-live="polite">
        <MatchSays :work="work" :view="view" />
        <p v-if="refused" class="wrong" role="alert">{{ refused }}</p>
        <PlainDialog v-if="mixed" title="Injectors of different owners" @close="mixed = undefined">
          <p>
            {{ mixed.members.map((one) => one.label || one.cylinder).join(', ') }} belong to
            {{ mixed.owners.join(' and ') }}.
          </p>
          <button class="main-act" type="button" @click="keep(mixed, true)">Save: owners agree</button>
          <button class="side-act" type="button" @click="mixed = undefined">Back to sets</button>
        </PlainDialog>

        <SetCard
          v-for="(set, i) in result?.sets ?? []"
          :key="set.members.map((one) => one.injector).join()"
          :set="set"
          :name="name(i)"
          :features="features"
          :shelf="hairs"
          @keep="keep(set)"
        />
        <LeftOver v-if="result?.leftovers.length" :leftovers="result.leftovers" />
        <KeptSets :view="view" @apart="apart" />
        <section>
          <h2>On the shelf</h2>
          <ShelfRows
            :lines="view.lines"
            :features="features"
            :kept="view.kept"
            :used="used"
            :group="group"
            @use="use"
            @bind="bind"
            @loose="loose"
          />
          <p v-if="pages > 1" class="pages">
            <button class="side-act" type="button" :disabled="page === 1" @click="page -= 1">Back</button>
            page {{ page }} of {{ pages }}
            <button class="side-act" type="button" :disabled="page === pages" @click="page += 1">Next</button>
          </p>
        </section>
      </section>
    </div>
  </main>
</template>

<style scoped>
.tools {
  padding: 6px 22px 0;
}
.match {
  display: grid;
  grid-template-columns: 300px minmax(0, 1fr);
  gap: 24px;
  padding: 12px 22px 40px;
}
.answer {
  display: grid;
  gap: 14px;
  align-content: start;
}
.pages {
  display: flex;
  align-items: center;
  gap: 12px;
  margin-top: 10px;
}
@media (max-width: 900px) {
  .match {
    grid-template-columns: 1fr;
  }
}
</style>
