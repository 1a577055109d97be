<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, reactive, ref } from 'vue';
import { ask, Refusal, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { RuleView } from '@/api/types';
import { moment } from '@/domain/time';
import PickOne from '@/shell/PickOne.vue';
import ShelfNav from '@/shell/ShelfNav.vue';
import StateLine from '@/shell/StateLine.vue';
import TypedField from '@/shell/TypedField.vue';
import { sayHeadline } from '@/shell/useHeadline';
import { eachChangeNewRevision } from '@/rules/words';

/** Every default of the trade that this house may do otherwise, each with its reason. */
sayHeadline('Workshop rules', eachChangeNewRevision);
const cache = useQueryClient();
const query = useQuery({ queryKey: ['rules'], queryFn: () => ask('get', '/api/rules') });
const groups = computed(() => {
  const groups = new Map<string, RuleView[]>();
  for (const rule of query.data.value ?? [])
    groups.set(rule.about, [...(groups.get(rule.about) ?? []), rule]);
  return [...groups];
});
const open = ref('');
const form = reactive({ typed: '', reason: '', revision: 0 });
const wrong = ref<Refusal>();

function edit(rule: RuleView) {
  open.value = open.value === rule.id ? '' : rule.id;
  Object.assign(form, { typed: rule.typed, reason: '', revision: rule.revision });
  wrong.value = undefined;
}

async function keep(rule: RuleView) {
  try {
    cache.setQueryData(
      ['rules'],
      await act('put', '/api/rules/{rule}', { params: { path: { rule: rule.id } }, body: form }),
    );
    open.value = '';
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
      v-if="!groups.length"
      :loading="query.isPending.value"
      :error="query.error.value"
      empty=""
      @again="query.refetch()"
    />
    <div v-else class="rules">
      <section>
        <h2>Judgement</h2>
        <p class="weights">
          <RouterLink class="side-act" to="/rules/weights">Judgement weights</RouterLink>
          <span class="muted small">How strongly each finding counts for and against each cause.</span>
        </p>
      </section>
      <section v-for="[about, rules] in groups" :key="about">
        <h2>{{ about }}</h2>
        <div v-for="rule in rules" :key="rule.id" class="rule" :class="{ own: rule.revision > 0 }">
          <button type="button" :aria-expanded="open === rule.id" @click="edit(rule)">
            <span class="word">{{ rule.word }}</span>
            <strong>{{ rule.shown }}</strong>
            <span v-if="rule.revision" class="small reason">
              instead of {{ rule.default }}, revision {{ rule.revision }}: {{ rule.history[0]?.reason }}
            </span>
          </button>
          <form v-if="open === rule.id" @submit.prevent="keep(rule)">
            <p class="muted">{{ rule.says }} Trade default: {{ rule.default }}.</p>
            <PickOne
              v-if="rule.choices.length"
              v-model="form.typed"
              :word="rule.word"
              :options="rule.choices.map((word, i) => ({ value: String(i), word }))"
            />
            <TypedField
              v-else
              v-model="form.typed"
              :name="`${rule.id}-typed`"
              :word="rule.word"
              :unit="rule.unit"
              :wrong="wrong?.about('typed')"
            />
            <TypedField
              v-model="form.reason"
              wide
              :name="`${rule.id}-reason`"
              word="Workshop’s reason"
              :wrong="wrong?.about('reason')"
            />
            <p v-if="wrong && !wrong.fields.length" class="wrong" role="alert">{{ wrong.message }}</p>
            <button class="main-act" type="submit">Save as new revision</button>
            <ol v-if="rule.history.length" class="small muted">
              <li v-for="past in rule.history" :key="past.revision">
                Revision {{ past.revision }}, {{ moment(past.at) }}, {{ past.by }}: {{ past.shown }}, because
                {{ past.reason }}
              </li>
            </ol>
          </form>
        </div>
      </section>
    </div>
  </main>
</template>

<style scoped>
.top {
  padding: 0 10px;
  border-bottom: 1px solid var(--line);
}
.rules {
  columns: 3 360px;
  column-gap: 34px;
  padding: 18px 22px 40px;
}
section {
  break-inside: avoid;
  margin-bottom: 20px;
}
h2 {
  border-bottom: 2px solid var(--ink);
  padding-bottom: 3px;
}
.weights {
  display: grid;
  gap: 4px;
  justify-items: start;
  padding-top: 8px;
}
.rule {
  border-bottom: 1px solid var(--line);
  border-left: 6px solid transparent;
}
.rule.own {
  border-left-color: var(--act);
}
.rule > button {
  width: 100%;
  min-height: 46px;
  border: 0;
  background: none;
  padding: 4px 4px 4px 8px;
  text-align: left;
  cursor: pointer;
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 12px;
  align-items: baseline;
  align-content: center;
}
.rule > button:hover {
  background: var(--act-soft);
}
strong {
  font-size: 1.15rem;
  text-align: right;
}
.reason {
  grid-column: 1 / -1;
  color: var(--act);
}
form {
  display: grid;
  gap: 10px;
  padding: 4px 4px 14px 10px;
}
ol {
  margin: 0;
  padding-left: 18px;
}
</style>
