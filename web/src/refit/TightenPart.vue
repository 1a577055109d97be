<script setup lang="ts">
import { ref } from 'vue';
import type { Refusal } from '@/api/client';
import type { Fitting } from '@/api/types';
import TypedField from '@/shell/TypedField.vue';
import { useUnits } from '@/shell/useUnits';

/** How the clamp is tightened, in every unit; typed for this job where the library does not know. */
const props = defineProps<{
  tightening: Fitting['tightening'];
  wrong?: Refusal;
  keep: (typed: string, source: string) => Promise<boolean>;
}>();
const { unit } = useUnits();
const open = ref(false);
const typed = ref('');
const source = ref('');
async function typedOne() {
  if (await props.keep(typed.value, source.value)) open.value = false;
}
</script>

<template>
  <section class="tighten">
    <h2>Tightening</h2>
    <ol v-if="tightening.known">
      <li v-for="stage in tightening.stages" :key="stage">{{ stage }}</li>
    </ol>
    <p :class="tightening.known ? 'muted small' : 'caution'">{{ tightening.source }}</p>
    <button v-if="!open" class="link-act" type="button" @click="open = true">Enter maker’s figures</button>
    <form v-else @submit.prevent="typedOne">
      <TypedField
        v-model="typed"
        name="typed"
        :word="`Stages in ${unit('N·m')}, such as 8; 106 in·lb; 90°`"
        wide
        :wrong="wrong?.about('typed')"
      />
      <TypedField v-model="source" name="source" word="Source" wide :wrong="wrong?.about('source')" />
      <button class="side-act" type="submit">Save figures</button>
    </form>
  </section>
</template>

<style scoped>
ol {
  margin: 4px 0;
  padding-left: 26px;
}
li {
  font-size: 1.12rem;
  font-weight: 700;
}
form {
  display: grid;
  gap: 8px;
}
</style>
