<script setup lang="ts">
import type { Refusal } from '@/api/client';

/** Someone else changed it first: theirs, or what is typed here. */
defineProps<{ wrong: Refusal }>();
const emit = defineEmits<{ theirs: []; mine: [] }>();
</script>

<template>
  <div class="stale" role="alert">
    <p class="wrong">{{ wrong.message }}</p>
    <p>
      Saved now: {{ wrong.current?.intake.machine }}, {{ wrong.current?.intake.customer }}. Your entry is
      still on this screen.
    </p>
    <button class="side-act" type="button" @click="emit('theirs')">Use saved</button>
    <button class="side-act" type="button" @click="emit('mine')">Save mine</button>
  </div>
</template>

<style scoped>
.stale {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.stale p {
  width: 100%;
}
</style>
