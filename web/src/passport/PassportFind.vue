<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query';
import { computed, onMounted, ref, useTemplateRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import { ask } from '@/api/client';
import { useDelayed } from '@/domain/useDelayed';
import ShelfNav from '@/shell/ShelfNav.vue';
import StateLine from '@/shell/StateLine.vue';
import { sayHeadline } from '@/shell/useHeadline';
import { oneInjectorAllJobs } from '@/passport/words';

/** Injectors by their label: typed, or scanned off a printed one, which opens its passport at once. */
const PER_PAGE = 30;
const router = useRouter();
const words = ref('');
const page = ref(0);
watch(words, () => (page.value = 0));
const asked = useDelayed(() => words.value.trim(), 200);
const query = useQuery({
  queryKey: computed(() => ['passports', asked.value, page.value]),
  queryFn: () =>
    ask('get', '/api/passports', {
      params: { query: { q: asked.value, page: page.value, per_page: PER_PAGE } },
    }),
  placeholderData: keepPreviousData,
});
const found = computed(() => query.data.value);
const pages = computed(() => Math.ceil((found.value?.total ?? 0) / PER_PAGE));
const field = useTemplateRef<HTMLInputElement>('field');
onMounted(() => field.value?.focus());
/** A scanner ends with Enter; so does a hand that typed enough. */
async function enter() {
  const told = await ask('get', '/api/passports', { params: { query: { q: words.value.trim() } } });
  if (told.lines.length === 1) await router.push(`/passports/${told.lines[0]!.injector}`);
}
sayHeadline('Injector history', oneInjectorAllJobs);
</script>

<template>
  <main>
    <div class="top"><ShelfNav /></div>
    <form class="find" @submit.prevent="enter">
      <label for="scan">Scan a label or type its start</label>
      <input id="scan" ref="field" v-model="words" autocomplete="off" spellcheck="false" />
    </form>
    <StateLine
      v-if="!found"
      :loading="query.isPending.value"
      :error="query.error.value"
      @again="query.refetch()"
    />
    <p v-else-if="!found.total" class="none">No injector has a label starting like that.</p>
    <template v-else>
      <ol>
        <li v-for="line in found.lines" :key="line.injector">
          <RouterLink :to="`/passports/${line.injector}`">
            <strong>{{ line.label }}</strong>
            <span>{{ line.machine }}, job {{ line.number }}</span>
            <span class="muted">{{ line.jobs }} {{ line.jobs === 1 ? 'job' : 'jobs' }}</span>
          </RouterLink>
        </li>
      </ol>
      <nav v-if="pages > 1" class="pages" aria-label="Pages">
        <button class="side-act" type="button" :disabled="page === 0" @click="page--">Back</button>
        <span>{{ page + 1 }} of {{ pages }}</span>
        <button class="side-act" type="button" :disabled="page + 1 >= pages" @click="page++">Next</button>
      </nav>
    </template>
  </main>
</template>

<style scoped>
.top {
  padding: 0 10px;
  border-bottom: 1px solid var(--line);
}
.find {
  display: grid;
  gap: 6px;
  padding: 18px 22px 6px;
  max-width: 640px;
}
input {
  min-height: 58px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 14px;
  font-size: 1.5rem;
  font-weight: 700;
}
ol {
  list-style: none;
  margin: 0;
  padding: 8px 22px;
  columns: 380px;
}
li a {
  display: grid;
  grid-template-columns: 130px 1fr auto;
  gap: 10px;
  align-items: center;
  min-height: 48px;
  border-bottom: 1px solid var(--line);
  color: var(--ink);
  text-decoration: none;
  break-inside: avoid;
}
.none {
  padding: 10px 22px;
}
.pages {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 10px 22px 30px;
}
</style>
