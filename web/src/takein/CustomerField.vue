<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import Input from 'ant-design-vue/es/input';
import { computed } from 'vue';
import { ask } from '@/api/client';
import { useDelayed } from '@/domain/useDelayed';

/** The customer by name; one that the workshop keeps brings machines and earlier jobs along. */
const name = defineModel<string>('name', { required: true });
const id = defineModel<string | null | undefined>('id', { required: true });
const asked = useDelayed(() => name.value.trim());
const known = useQuery({
  queryKey: computed(() => ['customers', asked.value, 0]),
  queryFn: () => ask('get', '/api/customers', { params: { query: { q: asked.value } } }),
});
const lines = computed(() => known.data.value?.lines ?? []);
/** What is typed is one of them, or none. */
function typed(text: string) {
  name.value = text;
  id.value = lines.value.find((one) => one.customer.name === text.trim())?.customer.id ?? null;
}
</script>

<template>
  <Input id="customer" :value="name" autocomplete="off" list="known-customers" @update:value="typed" />
  <datalist id="known-customers">
    <option v-for="one in lines" :key="one.customer.id" :value="one.customer.name" />
  </datalist>
</template>
