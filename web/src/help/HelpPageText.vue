<script setup lang="ts">
import { TERMS, type HelpPage } from './words';

/** One page of the handbook: what the screen is for, what to do, and its words. */
defineProps<{ page: HelpPage }>();
</script>

<template>
  <article class="help-page">
    <h2>{{ page.title }}</h2>
    <p>{{ page.purpose }}</p>
    <h3>What to do</h3>
    <ol>
      <li v-for="step in page.steps" :key="step">{{ step }}</li>
    </ol>
    <template v-if="page.terms.length">
      <h3>Words</h3>
      <dl>
        <template v-for="term in page.terms" :key="term">
          <dt>{{ term }}</dt>
          <dd>{{ TERMS[term] }}</dd>
        </template>
      </dl>
    </template>
  </article>
</template>

<style scoped>
.help-page {
  display: grid;
  gap: 8px;
  align-content: start;
}
ol {
  margin: 0;
  padding-left: 22px;
}
dl {
  display: grid;
  grid-template-columns: minmax(110px, auto) 1fr;
  gap: 6px 14px;
  margin: 0;
}
dt {
  font-weight: 700;
}
dd {
  margin: 0;
}
@media print {
  .help-page {
    break-inside: avoid;
    margin-bottom: 14px;
  }
}
</style>
