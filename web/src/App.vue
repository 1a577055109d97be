<script setup lang="ts">
import ConfigProvider from 'ant-design-vue/es/config-provider';
import { defineAsyncComponent, ref } from 'vue';
import { useRouter } from 'vue-router';
import TopBar from './shell/TopBar.vue';
import UnkeptBar from './shell/UnkeptBar.vue';
import { useBench } from './shell/useBench';
import { useKeys } from './shell/useKeys';
import { useTheme } from './theme/useTheme';
import { findAnything, bookJob } from '@/words';

const WhoDialog = defineAsyncComponent(() => import('./shell/WhoDialog.vue'));
const CommandLine = defineAsyncComponent(() => import('./shell/CommandLine.vue'));
const KeyHelp = defineAsyncComponent(() => import('./shell/KeyHelp.vue'));

const { controls, turn } = useTheme();
const { choosing } = useBench();
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
  <ConfigProvider :theme="controls">
    <TopBar @command="commanding = true" @help="helping = true" />
    <UnkeptBar />
    <RouterView />
    <WhoDialog v-if="choosing" />
    <CommandLine v-if="commanding" @close="commanding = false" @help="helping = true" />
    <KeyHelp v-if="helping" @close="helping = false" />
  </ConfigProvider>
</template>
