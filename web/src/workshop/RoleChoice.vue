<script setup lang="ts">
import type { Role } from '@/api/types';
import { ROLE } from '@/words';

/** What a person is in the workshop. */
defineProps<{ id: string; label: string }>();
const role = defineModel<Role | ''>({ required: true });
const roles = Object.entries(ROLE) as [Role, string][];
</script>

<template>
  <select :id="id" v-model="role" class="line" :aria-label="label">
    <option v-if="!role" value="" disabled>Choose a role</option>
    <option v-for="[code, word] in roles" :key="code" :value="code">{{ word }}</option>
  </select>
</template>

<style scoped>
.line {
  width: auto;
}
</style>
