<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { ref } from 'vue';
import { ask, refusal } from '@/api/client';
import { newId } from '@/domain/identity';
import { useJob } from '@/job/useJob';
import PlainDialog from '@/shell/PlainDialog.vue';
import StateLine from '@/shell/StateLine.vue';

/** The same readings by today's library and rules, beside what was said then. Nothing is rewritten. */
const emit = defineEmits<{ close: [] }>();
const job = useJob();
const id = newId();
const wrong = ref('');
const query = useQuery({
  queryKey: ['rejudged', job.id.value, job.test.value?.id],
  queryFn: () =>
    ask('get', '/api/jobs/{job}/return-tests/{test}/rejudged', {
      params: { path: { job: job.id.value, test: job.test.value!.id } },
    }),
  gcTime: 0,
});

async function keep() {
  const text = query.data.value?.difference.text ?? '';
  try {
    await job.change('post', '/api/jobs/{job}/notes', {
      params: { path: { job: job.id.value } },
      body: { id, stage: 'on_engine', text },
    });
    emit('close');
  } catch (error) {
    wrong.value = refusal(error).message;
  }
}
</script>

<template>
  <PlainDialog title="View by today’s limits" @close="emit('close')">
    <StateLine
      v-if="!query.data.value"
      :loading="query.isPending.value"
      :error="query.error.value"
      empty=""
      @again="query.refetch()"
    />
    <template v-else>
      <dl>
        <dt>Then</dt>
        <dd>
          {{ query.data.value.difference.limit_then }} Workshop rules, revision
          {{ query.data.value.difference.rules_then }}.
        </dd>
        <dt>Now</dt>
        <dd>
          {{ query.data.value.difference.limit_now }} Workshop rules, revision
          {{ query.data.value.difference.rules_now }}.
        </dd>
      </dl>
      <p v-if="!query.data.value.difference.changes.length" class="big">No injector’s result would change.</p>
      <p v-for="change in query.data.value.difference.changes" :key="change" class="big">{{ change }}</p>
      <p class="muted">The verdict of the test stays as it was. Saved as a note, the difference is signed.</p>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <button class="main-act" type="button" @click="keep">Save difference as note</button>
    </template>
  </PlainDialog>
</template>

<style scoped>
dl {
  margin: 0;
  display: grid;
  grid-template-columns: 60px 1fr;
  gap: 6px 10px;
}
dt {
  font-weight: 700;
}
dd {
  margin: 0;
}
.big {
  font-size: 1.2rem;
  font-weight: 700;
}
</style>
