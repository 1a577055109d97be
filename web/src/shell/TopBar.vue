<script setup lang="ts">
import { useTheme } from '@/theme/useTheme';
import { useDemo } from '@/start/useDemo';
import { useBench } from './useBench';
import { headline } from './useHeadline';

defineEmits<{ command: []; help: [] }>();
const bench = useBench();
const { home } = useDemo();
const { name, large, turn, enlarge } = useTheme();
</script>

<template>
  <header class="bar">
    <RouterLink class="name" to="/">cobaltine</RouterLink>
    <a v-if="home" class="demo" :href="home" title="Back to own workshop">Demo: leave</a>
    <h1 class="title">{{ headline.title }}</h1>
    <span class="detail">{{ headline.detail }}</span>
    <button class="find" type="button" @click="$emit('command')">
      <span>Find or do…</span><span class="key">Ctrl K</span>
    </button>
    <button class="who" type="button" @click="bench.choose">
      {{ bench.name.value ? `Signing as ${bench.name.value}` : 'Choose your name' }}
      <span
        v-if="bench.open.value"
        class="open"
        title="This workshop is open: names are chosen, nobody signs in."
        >no sign-in</span
      >
    </button>
    <button
      class="who"
      type="button"
      :aria-label="name === 'dim' ? 'Use light theme' : 'Use dark theme'"
      @click="turn"
    >
      {{ name === 'dim' ? '☀' : '☾' }}
    </button>
    <button
      class="who"
      type="button"
      :aria-label="large ? 'A− normal text' : 'A+ larger text'"
      :aria-pressed="large"
      @click="enlarge"
    >
      {{ large ? 'A−' : 'A+' }}
    </button>
    <button class="who" type="button" aria-label="Open help" @click="$emit('help')">
      <span class="key">?</span>
    </button>
  </header>
</template>

<style scoped>
.bar {
  background: var(--bar);
  color: var(--bar-ink);
  display: flex;
  align-items: center;
  gap: 12px;
  min-height: 54px;
  padding: 4px 14px 4px 22px;
}
.name {
  color: inherit;
  font-weight: 700;
  font-size: 1.3rem;
  text-decoration: none;
  padding-right: 14px;
  border-right: 2px solid var(--bar-muted);
}
.demo {
  color: inherit;
  font-weight: 700;
  border: 2px dashed var(--bar-muted);
  border-radius: 6px;
  min-height: 40px;
  padding: 0 12px;
  display: inline-flex;
  align-items: center;
}
.title {
  font-size: 1.05rem;
  font-weight: 400;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.detail {
  color: var(--bar-muted);
  font-size: 0.9rem;
  flex: 1;
  min-width: 0;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.find,
.who {
  min-height: 44px;
  min-width: 44px;
  background: none;
  color: inherit;
  border: 0;
  cursor: pointer;
  white-space: nowrap;
}
.find {
  border: 1px solid var(--bar-muted);
  border-radius: 6px;
  min-width: 210px;
  display: flex;
  justify-content: space-between;
  align-items: center;
  padding: 0 12px;
  color: var(--bar-muted);
}
.open {
  border: 1px dashed var(--bar-muted);
  border-radius: 4px;
  padding: 1px 6px;
  margin-left: 4px;
  font-size: 0.8rem;
  color: var(--bar-muted);
}
.bar :focus-visible {
  outline-color: var(--bar-ink);
}
@media (max-width: 900px) {
  .find {
    min-width: 0;
  }
  .find .key,
  .detail {
    display: none;
  }
  .demo {
    color: inherit;
    font-weight: 700;
    border: 2px dashed var(--bar-muted);
    border-radius: 6px;
    min-height: 40px;
    padding: 0 12px;
    display: inline-flex;
    align-items: center;
  }
  .title {
    flex: 1;
  }
}
@media print {
  .bar {
    display: none;
  }
}
</style>
