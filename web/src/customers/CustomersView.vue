<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { ask } from '@/api/client';
import { useDelayed } from '@/domain/useDelayed';
import ShelfNav from '@/shell/ShelfNav.vue';
import StateLine from '@/shell/StateLine.vue';
import { sayHeadline } from '@/shell/useHeadline';
import CustomerForm from './CustomerForm.vue';
import { nothingElseKept } from './words';

/** Who brings the machines: by name, with telephone and jobs so far. */
sayHeadline('Customers', nothingElseKept);
const router = useRouter();
const typed = ref('');
const page = ref(0);
const adding = ref(false);
const asked = useDelayed(() => typed.value.trim());
const query = useQuery({
  queryKey: computed(() => ['customers', asked.value, page.value]),
  queryFn: () => ask('get', '/api/customers', { params: { query: { q: asked.value, page: page.value } } }),
  placeholderData: keepPreviousData,
});
const found = computed(() => query.data.value);
const pages = computed(() => Math.ceil((found.value?.total ?? 0) / (found.value?.per_page ?? 1)));
</script>

<template>
  <main>
    <div class="tools">
      <input v-model="typed" type="search" placeholder="name or telephone" aria-label="Find customers" />
      <ShelfNav />
      <button class="main-act" type="button" @click="adding = !adding">
        {{ adding ? 'Close form' : 'Add a customer' }}
      </button>
    </div>
    <CustomerForm v-if="adding" class="new" @kept="(id: string) => router.push(`/customers/${id}`)" />
    <StateLine
      v-if="!found?.lines.length"
      :loading="query.isPending.value"
      :error="query.error.value"
      :empty="
        asked ? 'No matching customer.' : 'No customers yet. Add one, or save one when a job is booked in.'
      "
      @again="query.refetch()"
    />
    <ul v-else>
      <li v-for="one in found.lines" :key="one.customer.id">
        <RouterLink :to="`/customers/${one.customer.id}`">
          <strong>{{ one.customer.name }}</strong>
          <span class="muted">{{ one.customer.phone }}</span>
          <span>{{ one.jobs === 1 ? '1 job' : `${one.jobs} jobs` }}</span>
        </RouterLink>
      </li>
    </ul>
    <nav v-if="pages > 1" class="pages" aria-label="Pages">
      <button class="side-act" type="button" :disabled="page === 0" @click="page--">Back</button>
      <span>{{ page + 1 }} of {{ pages }}</span>
      <button class="side-act" type="button" :disabled="page + 1 >= pages" @click="page++">Next</button>
    </nav>
  </main>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
  padding: 10px 22px;
}
input {
  min-height: 46px;
  width: 250px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 12px;
}
.new {
  margin: 0 22px 16px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  background: var(--sheet);
  border-top: 1px solid var(--line);
}
li a {
  display: grid;
  grid-template-columns: minmax(200px, 1.4fr) minmax(120px, 1fr) 90px;
  gap: 16px;
  align-items: center;
  min-height: 58px;
  padding: 0 22px;
  border-bottom: 1px solid var(--line);
  color: inherit;
  text-decoration: none;
}
li a:hover {
  background: var(--act-soft);
}
.pages {
  display: flex;
  gap: 18px;
  align-items: center;
  justify-content: center;
  padding: 16px;
}
</style>
