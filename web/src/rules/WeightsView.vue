<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import { ask, Refusal, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import { moment } from '@/domain/time';
import ShelfNav from '@/shell/ShelfNav.vue';
import StateLine from '@/shell/StateLine.vue';
import TypedField from '@/shell/TypedField.vue';
import { sayHeadline } from '@/shell/useHeadline';
import { howOftenEachState } from '@/rules/words';
import type { WeightsRecord } from '@/api/types';
import WeightTable from './WeightTable.vue';

/** The workshop's own rows over the shipped tables, kept with a reason; the shipped ones to read beside. */
sayHeadline('Judgement weights', howOftenEachState);
const cache = useQueryClient();
const query = useQuery({
  queryKey: ['weights'],
  queryFn: () => ask('get', '/api/weights'),
  refetchOnWindowFocus: false,
});
const text = ref('');
const reason = ref('');
const wrong = ref<Refusal>();
watch(query.data, (kept) => kept && text.value === '' && (text.value = kept.text), { immediate: true });
const changed = computed(() => query.data.value && text.value !== query.data.value.text);

function changedRow(record: WeightsRecord) {
  cache.setQueryData(['weights'], record);
  text.value = record.text;
}
async function keep() {
  try {
    const body = { revision: query.data.value?.revision ?? 0, text: text.value, reason: reason.value };
    cache.setQueryData(['weights'], await act('put', '/api/weights', { body }));
    reason.value = '';
    wrong.value = undefined;
  } catch (error) {
    wrong.value = refusal(error);
    if (wrong.value.status === 409) void query.refetch();
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
    <div v-else class="inside">
      <p class="muted">
        <RouterLink to="/rules">Workshop rules</RouterLink> · revision {{ query.data.value.revision
        }}<template v-if="query.data.value.signed">, {{ moment(query.data.value.signed.at) }}</template
        >: {{ query.data.value.reason }}
      </p>
      <p v-if="query.data.value.problem" class="wrong" role="alert">
        These are not in use; the shipped weights are: {{ query.data.value.problem }}
      </p>
      <WeightTable :record="query.data.value" @kept="changedRow" />
      <h2>As a file</h2>
      <form @submit.prevent="keep">
        <label for="own-rows"
          ><strong>Rows of this workshop</strong>; all others follow the shipped ones.</label
        >
        <textarea id="own-rows" v-model="text" spellcheck="false" rows="14"></textarea>
        <p v-if="wrong" class="wrong" role="alert">{{ wrong.about('text') || wrong.message }}</p>
        <div class="row">
          <TypedField
            v-model="reason"
            wide
            name="weights-reason"
            word="Workshop’s reason"
            :wrong="wrong?.about('reason')"
          />
          <button class="main-act" type="submit" :disabled="!changed">Save as new revision</button>
          <button v-if="changed" class="side-act" type="button" @click="text = query.data.value.text">
            Discard changes
          </button>
        </div>
      </form>
      <details>
        <summary>Shipped rows, each with its reason</summary>
        <pre>{{ query.data.value.shipped }}</pre>
      </details>
    </div>
  </main>
</template>

<style scoped>
.top {
  padding: 0 10px;
  border-bottom: 1px solid var(--line);
}
.inside {
  display: grid;
  gap: 14px;
  padding: 14px 22px;
}
form {
  display: grid;
  gap: 10px;
}
textarea {
  width: 100%;
  font-family: ui-monospace, 'DejaVu Sans Mono', monospace;
  font-size: 0.85rem;
  line-height: 1.45;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 10px;
  white-space: pre;
  overflow: auto;
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 12px;
}
</style>
