<script setup lang="ts">
import PlainDialog from './PlainDialog.vue';
import { activeKeys } from './useKeys';

defineEmits<{ close: [] }>();
const keys = activeKeys().filter((key, at, all) => all.findIndex((one) => one.key === key.key) === at);
const name = (key: string) => (key === ' ' ? 'space' : key.replace('Ctrl+', 'Ctrl ').replace('Arrow', ''));
</script>

<template>
  <PlainDialog title="Keys of this screen" @close="$emit('close')">
    <dl>
      <template v-for="key in keys" :key="key.key">
        <dt>
          <span class="key">{{ name(key.key) }}</span>
        </dt>
        <dd>{{ key.word }}</dd>
      </template>
      <dt><span class="key">Esc</span></dt>
      <dd>close this</dd>
    </dl>
  </PlainDialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 8px 14px;
  margin: 0;
}
dd {
  margin: 0;
}
.key {
  font-size: 1rem;
  padding: 2px 9px;
}
</style>
