<script setup lang="ts">
import { computed } from 'vue';
import { refusal } from '@/api/client';

/** Loading, failed or empty, said in one line where the content would stand. */
const props = defineProps<{ loading: boolean; error: unknown; empty?: string }>();
defineEmits<{ again: [] }>();
const message = computed(() => (props.error ? refusal(props.error).message : ''));
</script>

<template>
  <div class="state" role="status">
    <template v-if="error">
      <p class="wrong">{{ message }}</p>
      <button class="side-act" type="button" @click="$emit('again')">Try again</button>
    </template>
    <p v-else-if="loading" class="muted">Loading…</p>
    <p v-else class="muted">{{ empty }}</p>
  </div>
</template>

<style scoped>
.state {
  padding: 32px 22px;
  display: grid;
  gap: 14px;
  justify-items: start;
  font-size: 1.1rem;
}
</style>
