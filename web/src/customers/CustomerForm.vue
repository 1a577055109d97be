<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query';
import { reactive, ref } from 'vue';
import { Refusal, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { Customer } from '@/api/types';
import { newId } from '@/domain/identity';
import TypedField from '@/shell/TypedField.vue';

/** A customer as typed. A change takes the place of what was there. */
const props = defineProps<{ customer?: Customer }>();
const emit = defineEmits<{ kept: [id: string] }>();
const cache = useQueryClient();
const form = reactive({ id: newId(), revision: 0, name: '', phone: '', address: '', ...props.customer });
const wrong = ref<Refusal>();
async function keep() {
  try {
    const life = await act('put', '/api/customers', { body: form });
    await cache.invalidateQueries({ queryKey: ['customers'] });
    emit('kept', life.customer.id);
  } catch (error) {
    wrong.value = refusal(error);
  }
}
</script>

<template>
  <form @submit.prevent="keep">
    <TypedField v-model="form.name" name="customer-name" word="Name" wide :wrong="wrong?.about('name')" />
    <TypedField
      v-model="form.phone"
      name="customer-phone"
      word="Telephone"
      wide
      :wrong="wrong?.about('phone')"
    />
    <label for="customer-address">Address</label>
    <textarea id="customer-address" v-model="form.address" rows="3"></textarea>
    <p v-if="wrong?.about('address')" class="wrong small" role="alert">{{ wrong.about('address') }}</p>
    <p v-if="wrong && !wrong.fields.length" class="wrong" role="alert">{{ wrong.message }}</p>
    <p><button class="main-act" type="submit">Save customer</button></p>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 8px;
  max-width: 560px;
}
textarea {
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 8px 10px;
}
</style>
