<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import { ask } from '@/api/client';
import BoardRow from '@/board/BoardRow.vue';
import ShelfNav from '@/shell/ShelfNav.vue';
import StateLine from '@/shell/StateLine.vue';
import { sayHeadline } from '@/shell/useHeadline';
import CustomerForm from './CustomerForm.vue';

/** One customer: how to call, and what was done to which machine. */
const props = defineProps<{ id: string }>();
const query = useQuery({
  queryKey: computed(() => ['customers', 'one', props.id]),
  queryFn: () => ask('get', '/api/customers/{customer}', { params: { path: { customer: props.id } } }),
});
const life = computed(() => query.data.value);
const editing = ref(false);
watch(life, (now) => now && sayHeadline(now.customer.name, now.customer.phone), { immediate: true });
</script>

<template>
  <main>
    <div class="tools"><ShelfNav /></div>
    <StateLine
      v-if="!life"
      :loading="query.isPending.value"
      :error="query.error.value"
      empty=""
      @again="query.refetch()"
    />
    <template v-else>
      <section class="who">
        <CustomerForm v-if="editing" :customer="life.customer" @kept="editing = false" />
        <template v-else>
          <h1>{{ life.customer.name }}</h1>
          <p v-if="life.customer.phone">
            <a :href="`tel:${life.customer.phone}`">{{ life.customer.phone }}</a>
          </p>
          <p v-if="life.customer.address" class="address">{{ life.customer.address }}</p>
          <button class="side-act" type="button" @click="editing = true">Edit customer</button>
        </template>
      </section>
      <section v-for="one in life.machines" :key="`${one.machine} ${one.plate}`">
        <h2>
          {{ one.machine }} <span v-if="one.plate" class="muted">{{ one.plate }}</span>
        </h2>
        <ul>
          <BoardRow v-for="card in one.jobs" :key="card.id" :card="card" />
        </ul>
      </section>
      <p v-if="!life.machines.length" class="muted who">
        No jobs yet. Choose this customer when booking one in.
      </p>
    </template>
  </main>
</template>

<style scoped>
.tools {
  padding: 10px 22px;
}
.who,
h2 {
  padding: 6px 22px;
}
.who {
  display: grid;
  gap: 6px;
  justify-items: start;
}
.address {
  white-space: pre-line;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  background: var(--sheet);
  border-top: 1px solid var(--line);
}
</style>
