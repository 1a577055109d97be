<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import Form from 'ant-design-vue/es/form';
import Input from 'ant-design-vue/es/input';
import Select from 'ant-design-vue/es/select';
import { computed, onMounted, reactive, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { ask, Refusal, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type {
  BoardCard,
  Condition,
  Family,
  FaultCodes,
  FuelSystem,
  Intake,
  JobView,
  KeptView,
  Lately,
  LayoutView,
  Story,
  Suffers,
} from '@/api/types';
import { newId } from '@/domain/identity';
import { useMaybeJob } from '@/job/useJob';
import { useKeys } from '@/shell/useKeys';
import { sayHeadline } from '@/shell/useHeadline';
import { CODES, END, FUEL, LATELY, SUFFERS, SYMPTOM, WHEN } from '@/words';
import TakeInTabs from '@/plan/TakeInTabs.vue';
import { useDelayed } from '@/domain/useDelayed';
import EngineDrawing from './EngineDrawing.vue';
import TapMany from './TapMany.vue';
import PickOne from '@/shell/PickOne.vue';

/** Take in a job, or change what was taken in. */
interface Draft {
  id: string;
  intake: Intake;
  labels: string[];
}
const DRAFT = 'draft-take-in';
const router = useRouter();
const job = useMaybeJob();

function blank(): Draft {
  const layout = { cylinders: 4, banks: 1, first_at: 'pulley', numbering: 'bank_by_bank' } as const;
  const intake = {
    customer: '',
    machine: '',
    usage: '',
    engine: '',
    fuel_system: 'diesel_solenoid' as const,
  };
  return {
    id: newId(),
    intake: { ...intake, layout, family_id: null, symptoms: [], complaint: '', story: told() },
    labels: [],
  };
}
const told = () => ({
  when: [] as Condition[],
  suffers: 'not_known' as Suffers,
  fault_codes: 'not_read' as FaultCodes,
  codes: '',
  lately: [] as Lately[],
});
function stored(): Draft {
  const text = localStorage.getItem(DRAFT);
  const draft = text ? (JSON.parse(text) as Draft) : blank();
  draft.intake.story = { ...told(), ...draft.intake.story };
  return draft;
}
function ofJob(view: JobView): Draft {
  const { id, intake, injectors } = view.file.job;
  return JSON.parse(JSON.stringify({ id, intake, labels: injectors.map((one) => one.label) })) as Draft;
}

const held = job?.view.value;
const draft = reactive<Draft>(held ? ofJob(held) : stored());
const revision = ref(held?.file.job.revision ?? 0);
const wrong = ref<Refusal>();
const kept = ref(false);
if (!job) {
  sayHeadline('Take in a job');
  watch(draft, (draft) => localStorage.setItem(DRAFT, JSON.stringify(draft)), { deep: true });
}

const families = useQuery({ queryKey: ['families'], queryFn: () => ask<Family[]>('GET', '/families') });
const choices = computed(() =>
  (families.data.value ?? [])
    .filter((family) => family.fuel_system === draft.intake.fuel_system)
    .map((family) => ({
      value: family.id,
      label: `${family.name}: ${family.return_limit_ml_min ? `limit ${family.return_limit_ml_min} ml/min` : 'no limit, comparison'}`,
    })),
);
const family = computed({
  get: () => draft.intake.family_id ?? undefined,
  set: (id: string | undefined) => (draft.intake.family_id = id ?? null),
});
const drawn = useQuery({
  queryKey: computed(() => ['layout', JSON.stringify(draft.intake.layout)]),
  queryFn: () => ask<LayoutView>('POST', '/layout', draft.intake.layout),
  placeholderData: (before: LayoutView | undefined) => before,
});
const counts = [1, 2, 3, 4, 5, 6, 8, 10, 12].map((n) => ({ value: n, word: String(n) }));
const fuels = Object.entries(FUEL).map(([value, word]) => ({ value: value as FuelSystem, word }));

watch(
  () => draft.intake.layout.cylinders,
  (cylinders) => {
    draft.labels.length = Math.min(draft.labels.length, cylinders);
    if (cylinders % 2 || cylinders < 2) draft.intake.layout.banks = 1;
  },
);

const story = computed(() => draft.intake.story as Required<Story>);
const asks = <T extends string>(words: Record<T, string>) =>
  Object.entries(words).map(([value, word]) => ({ value: value as T, word: word as string }));
const machine = useDelayed(() => draft.intake.machine.trim(), 400);
const earlier = useQuery({
  queryKey: computed(() => ['earlier', machine.value, draft.id]),
  queryFn: () =>
    ask<BoardCard[]>('GET', `/earlier?${new URLSearchParams({ machine: machine.value, but: draft.id })}`),
  enabled: computed(() => machine.value.length > 1),
});

onMounted(() => {
  if (!job) document.getElementById('machine')?.focus();
});
const state = (field: string) => (wrong.value?.about(field) ? 'error' : '');
async function keep() {
  try {
    if (job) {
      const body = { revision: revision.value, intake: draft.intake, labels: draft.labels };
      const view = await job.change('PUT', `/jobs/${draft.id}/intake`, body);
      revision.value = view.file.job.revision;
      kept.value = true;
    } else {
      const { job: taken } = await act<KeptView>('POST', '/jobs', draft);
      localStorage.removeItem(DRAFT);
      await router.push(`/jobs/${taken}/take-in/plan`);
    }
    wrong.value = undefined;
  } catch (error) {
    wrong.value = refusal(error);
    kept.value = false;
  }
}
/** Take what the other one wrote; what is typed here is on screen until then. */
function takeTheirs() {
  if (!wrong.value?.current) return;
  revision.value = wrong.value.current.revision;
  draft.intake = JSON.parse(JSON.stringify(wrong.value.current.intake)) as Intake;
  draft.labels = wrong.value.current.injectors.map((one) => one.label);
  wrong.value = undefined;
}
function keepMine() {
  if (!wrong.value?.current) return;
  revision.value = wrong.value.current.revision;
  void keep();
}
useKeys([
  {
    key: 'Ctrl+Enter',
    word: job ? 'keep the change' : 'take the job in',
    always: true,
    run: () => void keep(),
  },
]);
</script>

<template>
  <main class="takein">
    <Form layout="vertical" class="form" @submit.prevent="keep">
      <section class="left">
        <TakeInTabs v-if="job" />
        <h1 v-else>What comes in?</h1>
        <div class="pair">
          <Form.Item
            label="Machine"
            html-for="machine"
            :validate-status="state('machine')"
            :help="wrong?.about('machine')"
          >
            <Input id="machine" v-model:value="draft.intake.machine" autocomplete="off" :maxlength="200" />
          </Form.Item>
          <Form.Item
            label="Customer"
            html-for="customer"
            :validate-status="state('customer')"
            :help="wrong?.about('customer')"
          >
            <Input id="customer" v-model:value="draft.intake.customer" autocomplete="off" />
          </Form.Item>
          <Form.Item
            label="Engine"
            html-for="engine"
            :validate-status="state('engine')"
            :help="wrong?.about('engine')"
          >
            <Input id="engine" v-model:value="draft.intake.engine" autocomplete="off" />
          </Form.Item>
          <Form.Item
            label="Hours or distance"
            html-for="usage"
            :validate-status="state('usage')"
            :help="wrong?.about('usage')"
          >
            <Input id="usage" v-model:value="draft.intake.usage" autocomplete="off" />
          </Form.Item>
        </div>
        <p v-if="earlier.data.value?.length" class="before">
          Was here before:
          <RouterLink v-for="card in earlier.data.value" :key="card.id" :to="`/jobs/${card.id}/take-in/plan`"
            >{{ card.number }}, {{ card.waits.words }}</RouterLink
          >
        </p>
        <TapMany v-model="draft.intake.symptoms" legend="What is wrong? Tap all that fit" :words="SYMPTOM" />
        <TapMany v-model="story.when" legend="When?" :words="WHEN" />
        <TapMany v-model="story.lately" legend="What changed lately?" :words="LATELY" />
        <div class="side-by-side">
          <PickOne v-model="story.suffers" word="Cylinders that suffer" :options="asks(SUFFERS)" />
          <PickOne v-model="story.fault_codes" word="Fault codes" :options="asks(CODES)" />
        </div>
        <Form.Item v-if="story.fault_codes === 'stored'" label="Which codes" html-for="codes">
          <Input id="codes" v-model:value="story.codes" autocomplete="off" />
        </Form.Item>
        <Form.Item
          label="In the customer’s words"
          html-for="complaint"
          :validate-status="state('complaint')"
          :help="wrong?.about('complaint')"
        >
          <Input.TextArea id="complaint" v-model:value="draft.intake.complaint" :rows="2" />
        </Form.Item>
      </section>
      <section class="right">
        <PickOne v-model="draft.intake.fuel_system" word="Fuel system" :options="fuels" />
        <PickOne v-model="draft.intake.layout.cylinders" word="Cylinders" :options="counts" />
        <div class="side-by-side">
          <PickOne
            v-model="draft.intake.layout.banks"
            word="Banks"
            :options="[
              { value: 1, word: 'one' },
              { value: 2, word: 'two' },
            ]"
          />
          <PickOne
            v-model="draft.intake.layout.first_at"
            word="The maker’s cylinder 1 is at the"
            :options="[
              { value: 'pulley', word: END.pulley },
              { value: 'flywheel', word: END.flywheel },
            ]"
          />
          <PickOne
            v-if="draft.intake.layout.banks === 2"
            v-model="draft.intake.layout.numbering"
            word="Two banks are counted"
            :options="[
              { value: 'bank_by_bank', word: 'bank by bank' },
              { value: 'alternating', word: 'side to side' },
            ]"
          />
        </div>
        <EngineDrawing
          v-model:labels="draft.labels"
          :banks="drawn.data.value?.banks ?? []"
          :first-at="draft.intake.layout.first_at"
          :wrong="wrong?.about('labels') ?? ''"
        />
        <p v-if="drawn.data.value?.problem || wrong?.about('layout')" class="wrong" role="alert">
          {{ wrong?.about('layout') || drawn.data.value?.problem }}
        </p>
        <Form.Item label="Injector family" html-for="family">
          <Select
            id="family"
            v-model:value="family"
            :options="choices"
            allow-clear
            placeholder="Not known: the set is compared with itself"
          />
        </Form.Item>
        <div class="foot">
          <div v-if="wrong?.code === 'stale'" class="stale" role="alert">
            <p class="wrong">{{ wrong.message }}</p>
            <p>
              Theirs now: {{ wrong.current?.intake.machine }}, {{ wrong.current?.intake.customer }}. Yours is
              still on this screen.
            </p>
            <button class="side-act" type="button" @click="takeTheirs">Take theirs</button>
            <button class="side-act" type="button" @click="keepMine">Keep mine</button>
          </div>
          <p v-else-if="wrong" class="wrong" role="alert">{{ wrong.message }}</p>
          <p v-if="kept" role="status">Kept.</p>
          <button class="main-act" type="submit">
            {{ job ? 'Keep the change' : 'Take it in' }} <span class="key">Ctrl Enter</span>
          </button>
        </div>
      </section>
    </Form>
  </main>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  min-height: calc(100vh - 60px);
}
.left,
.right {
  padding: 16px 26px 20px 22px;
}
.right {
  background: var(--sheet);
  border-left: 1px solid var(--line);
  display: grid;
  gap: 10px;
  align-content: start;
}
h1 {
  margin-bottom: 8px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 18px;
}
.side-by-side {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 28px;
}
.form :deep(.ant-form-item) {
  margin-bottom: 12px;
}
.form :deep(.ant-form-item-label) {
  padding-bottom: 2px;
}
.before {
  border-left: 5px solid var(--act);
  padding: 4px 0 4px 12px;
  margin-bottom: 8px;
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
}
.foot {
  position: sticky;
  bottom: 0;
  z-index: 2;
  background: var(--sheet);
  padding: 6px 0 10px;
  display: grid;
  gap: 8px;
}
.right :deep([role='radio']) {
  padding: 0 11px;
}
.stale {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.stale p {
  width: 100%;
}
@media (max-width: 900px) {
  .form {
    grid-template-columns: 1fr;
  }
}
</style>
