<script setup lang="ts">
import Form from 'ant-design-vue/es/form';
import Input from 'ant-design-vue/es/input';
import { computed, ref } from 'vue';
import { ask, refusal } from '@/api/client';
import type { Story } from '@/api/types';
import { useConnections } from '@/connections/useConnections';
import { readFaultCodes } from './words';

/** What the control unit has stored: typed, or read from a scan tool that is listed in Connections. */
const story = defineModel<Required<Story>>({ required: true });
const { all } = useConnections();
const scans = computed(() => all.value.filter((one) => one.connection.kind === 'scan'));
const wrong = ref('');
const busy = ref(false);

async function read(connection: string) {
  busy.value = true;
  try {
    const came = await ask('post', '/api/connections/{connection}/fault-codes', {
      params: { path: { connection } },
    });
    story.value.fault_codes = came.codes.length ? 'stored' : 'none';
    story.value.codes = came.codes.join(', ');
    wrong.value = '';
  } catch (error) {
    wrong.value = refusal(error).message;
  }
  busy.value = false;
}
</script>

<template>
  <Form.Item v-if="story.fault_codes === 'stored'" label="Which fault codes" html-for="codes">
    <Input id="codes" v-model:value="story.codes" autocomplete="off" />
  </Form.Item>
  <p v-if="scans.length" class="scans">
    <button
      v-for="one in scans"
      :key="one.connection.id"
      class="side-act"
      type="button"
      :disabled="busy"
      @click="read(one.connection.id)"
    >
      {{ readFaultCodes(one.connection.name) }}
    </button>
  </p>
  <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
</template>

<style scoped>
.scans {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-bottom: 14px;
}
</style>
