<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query';
import { act } from '@/api/outbox';
import { newId } from '@/domain/identity';

/** The customer of this job among those that the workshop keeps: one that is not can be kept by a tap. */
const id = defineModel<string | null | undefined>({ required: true });
const props = defineProps<{ name: string }>();
const cache = useQueryClient();
async function keep() {
  const body = { id: newId(), revision: 0, name: props.name.trim(), phone: '', address: '' };
  id.value = (await act('put', '/api/customers', { body })).customer.id;
  await cache.invalidateQueries({ queryKey: ['customers'] });
}
</script>

<template>
  <p v-if="name.trim()">
    <RouterLink v-if="id" class="link-act" :to="`/customers/${id}`">{{ name }}: machines and jobs</RouterLink>
    <button v-else class="link-act" type="button" @click="keep">Save customer {{ name }}</button>
  </p>
</template>
