<script setup lang="ts">
import { computed, ref } from 'vue';
import ShelfNav from '@/shell/ShelfNav.vue';
import { sayHeadline } from '@/shell/useHeadline';
import HelpPageText from './HelpPageText.vue';
import { everyScreen, nothingFound, PAGES, TERMS } from './words';

/** The whole handbook: searched by any word, and printed. */
sayHeadline('Handbook', everyScreen);
const typed = ref('');
const has = (text: string) => text.toLowerCase().includes(typed.value.trim().toLowerCase());
const pages = computed(() =>
  PAGES.filter((one) => has([one.title, one.purpose, ...one.steps, ...one.terms].join(' '))),
);
const terms = computed(() => Object.entries(TERMS).filter(([term, says]) => has(`${term} ${says}`)));
const print = () => window.print();
</script>

<template>
  <main class="handbook">
    <div class="top">
      <ShelfNav />
      <input v-model="typed" type="search" aria-label="Search the handbook" placeholder="any word" />
      <button class="side-act" type="button" @click="print">Print handbook</button>
    </div>
    <p v-if="!pages.length && !terms.length" class="muted">{{ nothingFound }}</p>
    <div class="pages">
      <HelpPageText v-for="page in pages" :id="page.id" :key="page.id" :page="page" />
    </div>
    <section v-if="terms.length">
      <h2>Words of the trade</h2>
      <dl>
        <template v-for="[term, says] in terms" :key="term">
          <dt>{{ term }}</dt>
          <dd>{{ says }}</dd>
        </template>
      </dl>
    </section>
  </main>
</template>

<style scoped>
.handbook {
  padding: 10px 22px 40px;
  display: grid;
  gap: 20px;
}
.top {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 16px;
  align-items: center;
}
input {
  min-height: 46px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 12px;
}
.pages {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(340px, 1fr));
  gap: 26px 34px;
}
dl {
  display: grid;
  grid-template-columns: minmax(130px, auto) 1fr;
  gap: 6px 16px;
  margin: 0;
}
dt {
  font-weight: 700;
}
dd {
  margin: 0;
}
@media print {
  .top {
    display: none;
  }
  .pages {
    display: block;
  }
}
</style>
