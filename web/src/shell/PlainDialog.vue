<script setup lang="ts">
import { onMounted, onUnmounted, ref } from 'vue';

/** The browser's own dialog: it holds the focus, and Escape closes it. */
defineProps<{ title: string }>();
const emit = defineEmits<{ close: [] }>();
const dialog = ref<HTMLDialogElement>();
onMounted(() => dialog.value?.showModal());
onUnmounted(() => dialog.value?.close());
</script>

<template>
  <dialog ref="dialog" :aria-label="title" @close="emit('close')" @click.self="emit('close')">
    <div class="inside-dialog">
      <h2>{{ title }}</h2>
      <slot />
    </div>
  </dialog>
</template>

<style scoped>
dialog {
  border: 0;
  border-top: 6px solid var(--act);
  padding: 0;
  background: var(--sheet);
  color: var(--ink);
  width: min(620px, calc(100vw - 40px));
  max-height: calc(100vh - 80px);
  margin-top: 70px;
}
dialog::backdrop {
  background: rgb(8 12 20 / 55%);
}
.inside-dialog {
  padding: 18px 22px 22px;
  display: flex;
  flex-direction: column;
  gap: 12px;
}
</style>
