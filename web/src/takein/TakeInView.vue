<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import ConfigProvider from 'ant-design-vue/es/config-provider';
import Form from 'ant-design-vue/es/form';
import Input from 'ant-design-vue/es/input';
import { computed, onMounted } from 'vue';
import { ask } from '@/api/client';
import type { Story } from '@/api/types';
import { useKeys } from '@/shell/useKeys';
import { useControls } from '@/theme/useControls';
import { CODES, LATELY, SUFFERS, SYMPTOM, WHEN } from '@/words';
import TakeInTabs from '@/plan/TakeInTabs.vue';
import { useDelayed } from '@/domain/useDelayed';
import AffectedCylinders from './AffectedCylinders.vue';
import CustomerField from './CustomerField.vue';
import CustomerLink from './CustomerLink.vue';
import EngineFields from './EngineFields.vue';
import FaultCodes from './FaultCodes.vue';
import StaleChoice from './StaleChoice.vue';
import TapMany from './TapMany.vue';
import { useIntake } from './useIntake';
import PickOne from '@/shell/PickOne.vue';
import { useUnits } from '@/shell/useUnits';

/** Take in a job, or change what was taken in. */
const { job, draft, wrong, kept, state, keep, takeTheirs, keepMine } = useIntake();

const story = computed(() => draft.intake.story as Required<Story>);
const asks = <T extends string>(words: Record<T, string>) =>
  Object.entries(words).map(([value, word]) => ({ value: value as T, word: word as string }));
const promised = computed({
  get: () => draft.intake.promised ?? '',
  set: (day: string) => (draft.intake.promised = day || null),
});
// Who names cylinders says how many suffer.
const machine = useDelayed(() => draft.intake.machine.trim(), 400);
const earlier = useQuery({
  queryKey: computed(() => ['earlier', machine.value, draft.id]),
  queryFn: () => ask('get', '/api/earlier', { params: { query: { machine: machine.value, but: draft.id } } }),
  enabled: computed(() => machine.value.length > 1),
});

onMounted(() => {
  if (!job) document.getElementById('machine')?.focus();
});
useKeys([
  {
    key: 'Ctrl+Enter',
    word: job ? 'save changes' : 'create the job',
    always: true,
    run: () => void keep(),
  },
]);
const { labels } = useUnits();
const controls = useControls();
</script>

<template>
  <ConfigProvider :theme="controls">
    <main class="takein">
      <Form layout="vertical" class="form" @submit.prevent="keep">
        <section class="left">
          <TakeInTabs v-if="job" />
          <h1 v-else>Machine and complaint</h1>
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
              <CustomerField v-model:name="draft.intake.customer" v-model:id="draft.intake.customer_id" />
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
              :label="`Hours or ${labels?.distance ?? 'distance'}, with unit`"
              html-for="usage"
              :validate-status="state('usage')"
              :help="wrong?.about('usage')"
            >
              <Input id="usage" v-model:value="draft.intake.usage" autocomplete="off" />
            </Form.Item>
          </div>
          <p v-if="earlier.data.value?.length" class="before">
            Earlier job:
            <RouterLink
              v-for="card in earlier.data.value"
              :key="card.id"
              :to="`/jobs/${card.id}/take-in/plan`"
              >{{ card.number }}, {{ card.waits.words }}</RouterLink
            >
          </p>
          <TapMany v-model="draft.intake.symptoms" legend="Symptoms: tap all that apply" :words="SYMPTOM" />
          <TapMany v-model="story.when" legend="When?" :words="WHEN" />
          <TapMany v-model="story.lately" legend="What changed recently?" :words="LATELY" />
          <div class="side-by-side">
            <PickOne
              v-if="!story.cylinders.length"
              v-model="story.suffers"
              word="Cylinders affected"
              :options="asks(SUFFERS)"
            />
            <PickOne v-model="story.fault_codes" word="Fault codes" :options="asks(CODES)" />
          </div>
          <AffectedCylinders
            v-if="story.suffers !== 'all' && draft.intake.layout.cylinders > 1"
            v-model="story.cylinders"
            :cylinders="draft.intake.layout.cylinders"
          />
          <FaultCodes :model-value="story" />
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
          <EngineFields v-model="draft" :wrong="wrong" />
          <div class="pair more">
            <Form.Item
              label="Plate or hull number"
              html-for="plate"
              :validate-status="state('plate')"
              :help="wrong?.about('plate')"
            >
              <Input id="plate" v-model:value="draft.intake.plate" autocomplete="off" />
            </Form.Item>
            <Form.Item label="Promised for" html-for="promised">
              <input id="promised" v-model="promised" type="date" class="date" />
            </Form.Item>
          </div>
          <CustomerLink v-model="draft.intake.customer_id" :name="draft.intake.customer" />
          <div class="foot">
            <StaleChoice
              v-if="wrong?.code === 'stale'"
              :wrong="wrong"
              @theirs="takeTheirs"
              @mine="keepMine"
            />
            <p v-else-if="wrong" class="wrong" role="alert">{{ wrong.message }}</p>
            <p v-if="kept" role="status">Saved</p>
            <button class="main-act" type="submit">
              {{ job ? 'Save changes' : 'Create job' }} <span class="key">Ctrl Enter</span>
            </button>
          </div>
        </section>
      </Form>
    </main>
  </ConfigProvider>
</template>

<style scoped>
.date {
  min-height: 46px;
  width: 100%;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 10px;
}
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
  grid-template-columns: repeat(auto-fit, minmax(240px, 1fr));
  gap: 0 14px;
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
@media (max-width: 900px) {
  .form {
    grid-template-columns: 1fr;
  }
}
</style>
