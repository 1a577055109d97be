<script setup lang="ts">
import { computed } from 'vue';
import { linkFor } from './words';

/** A link that is shown once, to be handed to its person. */
const props = defineProps<{ name: string; token: string }>();
const link = computed(() => `${window.location.origin}/join#${props.token}`);
const copy = () => void navigator.clipboard?.writeText(link.value);
</script>

<template>
  <p class="link" role="status">
    {{ linkFor(name) }} <code>{{ link }}</code>
    <button class="side-act" type="button" @click="copy">Copy link</button>
  </p>
</template>

<style scoped>
.link {
  border-left: 6px solid var(--act);
  background: var(--act-soft);
  padding: 8px 12px;
  display: grid;
  gap: 6px;
  justify-items: start;
  width: 100%;
}
code {
  overflow-wrap: anywhere;
}
</style>
