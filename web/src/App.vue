<script setup lang="ts">
import { defineAsyncComponent, ref } from 'vue';
import { useRouter } from 'vue-router';
import TopBar from './shell/TopBar.vue';
import UnkeptBar from './shell/UnkeptBar.vue';
import { useBench } from './shell/useBench';
import { useKeys } from './shell/useKeys';
import { useTheme } from './theme/useTheme';
import { findAnything, bookJob } from '@/words';

const SignIn = defineAsyncComponent(() => import('./signin/SignIn.vue'));
const SignedInDialog = defineAsyncComponent(() => import('./signin/SignedInDialog.vue'));
const FreshDialog = defineAsyncComponent(() => import('./signin/FreshDialog.vue'));
const WhoDialog = defineAsyncComponent(() => import('./shell/WhoDialog.vue'));
const CommandLine = defineAsyncComponent(() => import('./shell/CommandLine.vue'));
const KeyHelp = defineAsyncComponent(() => import('./shell/KeyHelp.vue'));

const { turn } = useTheme();
const { choosing, freshening, open, out, sign } = useBench();
const router = useRouter();
const commanding = ref(false);
const helping = ref(false);

useKeys([
  { key: 'Ctrl+k', word: findAnything, always: true, run: () => (commanding.value = true) },
  { key: '/', word: findAnything, run: () => (commanding.value = true) },
  { key: '?', word: 'help', run: () => (helping.value = true) },
  { key: 'b', word: 'board', run: () => router.push('/') },
  { key: 'n', word: bookJob, run: () => router.push('/jobs/new') },
  { key: 'l', word: 'light or dark', run: turn },
]);
</script>

<template>
  <SignIn v-if="out || $route.path === '/join'" />
  <template v-else>
    <TopBar @command="commanding = true" @help="helping = true" />
    <p v-if="sign?.read_only" class="read-only" role="alert">{{ sign.read_only }}</p>
    <UnkeptBar />
    <RouterView />
    <WhoDialog v-if="choosing && open" />
    <SignedInDialog v-else-if="choosing" />
    <CommandLine v-if="commanding" @close="commanding = false" @help="helping = true" />
    <KeyHelp v-if="helping" @close="helping = false" />
    <FreshDialog v-if="freshening" />
  </template>
</template>

<style scoped>
.read-only {
  background: var(--too-much);
  color: var(--act-ink);
  font-weight: 700;
  padding: 10px 22px;
}
</style>
