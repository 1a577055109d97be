<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import HelpPageText from '@/help/HelpPageText.vue';
import { nothingFound, pageFor, TERMS } from '@/help/words';
import PlainDialog from './PlainDialog.vue';
import { activeKeys } from './useKeys';

/** Help for the screen in front: what it is for, what to do next, its keys, and any word explained. */
defineEmits<{ close: [] }>();
const route = useRoute();
const page = computed(() => pageFor(route.path));
const keys = activeKeys().filter((key, at, all) => all.findIndex((one) => one.key === key.key) === at);
const name = (key: string) => (key === ' ' ? 'space' : key.replace('Ctrl+', 'Ctrl ').replace('Arrow', ''));
const typed = ref('');
const terms = computed(() => {
  const word = typed.value.trim().toLowerCase();
  return word ? Object.entries(TERMS).filter((one) => one.join(' ').toLowerCase().includes(word)) : [];
});
</script>

<template>
  <PlainDialog title="Help" @close="$emit('close')">
    <input v-model="typed" type="search" aria-label="Explain a word" placeholder="explain a word" />
    <dl v-if="typed.trim()" class="words">
      <template v-for="[term, says] in terms" :key="term">
        <dt>{{ term }}</dt>
        <dd>{{ says }}</dd>
      </template>
    </dl>
    <p v-if="typed.trim() && !terms.length" class="muted">{{ nothingFound }}</p>
    <HelpPageText :page="page" />
    <h3>Keyboard shortcuts</h3>
    <dl>
      <template v-for="key in keys" :key="key.key">
        <dt>
          <span class="key">{{ name(key.key) }}</span>
        </dt>
        <dd>{{ key.word }}</dd>
      </template>
      <dt><span class="key">Esc</span></dt>
      <dd>close</dd>
    </dl>
    <RouterLink class="side-act" to="/help" @click="$emit('close')">Open handbook</RouterLink>
  </PlainDialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 8px 14px;
  margin: 0;
}
dt {
  font-weight: 700;
}
dd {
  margin: 0;
}
input {
  min-height: 46px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 12px;
}
.key {
  font-size: 1rem;
  padding: 2px 9px;
  font-weight: 400;
}
</style>
