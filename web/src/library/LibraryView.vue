<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import type { LineKind } from '@/api/types';
import { count } from '@/domain/language';
import ShelfNav from '@/shell/ShelfNav.vue';
import StateLine from '@/shell/StateLine.vue';
import { sayHeadline } from '@/shell/useHeadline';
import { useKeys } from '@/shell/useKeys';
import { addressOf } from './addressOf';
import LineList from './LineList.vue';
import { useLibrary } from './useLibrary';

/** Families, limits, engines and test plans: found as one types, opened beside the list. */
const { words, kind, page, pages, query, settled } = useLibrary();
const router = useRouter();
const found = computed(() => query.data.value);
const field = ref<HTMLInputElement>();
const at = ref(-1);

const KINDS: { value: LineKind | ''; word: string }[] = [
  { value: '', word: 'everything' },
  { value: 'family', word: 'families' },
  { value: 'limit', word: 'limits' },
  { value: 'engine', word: 'engines' },
  { value: 'test_plan', word: 'plans' },
  { value: 'preset', word: 'presets' },
];

watch(found, (now) => {
  at.value = -1;
  sayHeadline('Library', now ? `${count(now.entries)} entries` : '');
});

function move(by: number) {
  const lines = found.value?.lines.length ?? 0;
  if (!lines) return;
  at.value = (at.value + by + lines) % lines;
  void nextTick(() => document.querySelector('.lines .at')?.scrollIntoView({ block: 'nearest' }));
}
/** Enter before the answer is there waits for it: the first of an older list is not meant. */
const opening = ref(false);
function open() {
  opening.value = !settled.value;
  if (opening.value) return;
  const line = found.value?.lines[Math.max(0, at.value)];
  if (line) void router.push(addressOf(line));
}
watch(settled, (now) => {
  if (now && opening.value) open();
});
useKeys([{ key: 'f', word: 'search the library', run: () => field.value?.focus() }]);
sayHeadline('Library');
</script>

<template>
  <main>
    <div class="top">
      <ShelfNav />
      <RouterLink class="main-act" to="/library/file">Import limits</RouterLink>
    </div>
    <div class="library">
      <section class="left" aria-label="Search">
        <input
          ref="field"
          v-model="words"
          type="search"
          class="find"
          placeholder="family, check, source …"
          aria-label="Find in the library"
          autocomplete="off"
          @keydown.down.prevent="move(1)"
          @keydown.up.prevent="move(-1)"
          @keydown.enter.prevent="open"
        />
        <div class="kinds" role="group" aria-label="Kind of entry">
          <button
            v-for="one in KINDS"
            :key="one.value"
            type="button"
            :aria-pressed="kind === one.value"
            @click="kind = one.value"
          >
            {{ one.word }}
          </button>
        </div>
        <StateLine
          v-if="!found || !found.lines.length"
          :loading="query.isPending.value"
          :error="query.error.value"
          :empty="
            words
              ? 'No match in the library.'
              : 'The library is empty. Import limits from a file, or add a family.'
          "
          @again="query.refetch()"
        />
        <LineList v-else :lines="found.lines" :at="at" />
        <nav v-if="pages > 1" class="pages" aria-label="Pages">
          <button class="link-act" type="button" :disabled="page === 0" @click="page--">Back</button>
          <span class="small"
            >{{ page + 1 }} of {{ pages }}{{ found?.more ? ', and more: add a search word' : '' }}</span
          >
          <button class="link-act" type="button" :disabled="page + 1 >= pages" @click="page++">Next</button>
        </nav>
      </section>
      <section class="right"><RouterView /></section>
    </div>
  </main>
</template>

<style scoped>
.top {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
  padding: 0 22px 0 10px;
  border-bottom: 1px solid var(--line);
}
.main-act {
  min-height: 40px;
}
.library {
  display: grid;
  grid-template-columns: 430px minmax(0, 1fr);
}
.left {
  border-right: 1px solid var(--line);
  padding: 14px 0 0;
  height: calc(100vh - 103px);
  display: flex;
  flex-direction: column;
}
.find {
  margin: 0 22px;
  min-height: 54px;
  font-size: 1.25rem;
  border: 2px solid var(--act);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 14px;
}
.kinds {
  display: flex;
  flex-wrap: wrap;
  gap: 0 2px;
  padding: 6px 16px;
}
.kinds button {
  min-height: 44px;
  border: 0;
  background: none;
  padding: 0 7px;
  white-space: nowrap;
  cursor: pointer;
}
.kinds button[aria-pressed='true'] {
  font-weight: 700;
  box-shadow: inset 0 -4px var(--act);
}
.pages {
  display: flex;
  justify-content: space-between;
  align-items: center;
  padding: 2px 22px;
  border-top: 1px solid var(--line);
}
.right {
  min-width: 0;
  background: var(--sheet);
  padding: 18px 28px 40px;
}
@media (max-width: 1100px) {
  .library {
    grid-template-columns: 1fr;
  }
  .left {
    height: auto;
    max-height: 46vh;
    border-right: 0;
    border-bottom: 1px solid var(--line);
  }
}
</style>
