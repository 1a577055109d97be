<script setup lang="ts">
import { computed } from 'vue';
import type { Refusal } from '@/api/client';
import type { FeatureForm, ShelfFamily } from '@/api/types';
import PickOne from '@/shell/PickOne.vue';
import TypedField from '@/shell/TypedField.vue';

/** What sets are made by: family, size, and how far apart each feature may be. */
const at = defineModel<number>('at', { required: true });
const size = defineModel<number>('size', { required: true });
const by = defineModel<Record<string, boolean>>('by', { required: true });
const typed = defineModel<Record<string, string>>('typed', { required: true });
const props = defineProps<{
  families: ShelfFamily[];
  features: FeatureForm[];
  running: boolean;
  wrong?: Refusal;
  job: boolean;
}>();
defineEmits<{ make: []; stop: []; whole: [] }>();
const measured = computed(() => props.features.filter((one) => one.measured > 0));
const none = computed(() => !measured.value.some((one) => by.value[one.feature]));
</script>

<template>
  <form @submit.prevent="$emit('make')">
    <PickOne
      v-model="at"
      word="From the shelf"
      :options="
        families.map((one, i) => ({ value: i, word: `${one.family || 'family unknown'} · ${one.count}` }))
      "
    />
    <button v-if="job" class="link-act" type="button" @click="$emit('whole')">
      Only this job: use the whole shelf
    </button>
    <PickOne
      v-model="size"
      word="Sets of"
      :options="[2, 3, 4, 5, 6, 8, 12].map((n) => ({ value: n, word: String(n) }))"
    />
    <fieldset>
      <legend>Match on</legend>
      <div v-for="one in measured" :key="one.feature" class="feature">
        <button
          type="button"
          role="switch"
          :aria-checked="!!by[one.feature]"
          @click="by[one.feature] = !by[one.feature]"
        >
          {{ one.word }} <span class="small">{{ one.measured }} measured</span>
        </button>
        <TypedField
          v-if="by[one.feature]"
          v-model="typed[one.feature]!"
          :name="one.feature"
          word="within"
          :unit="one.tolerance_unit"
          :wrong="wrong?.about(one.feature)"
        />
      </div>
      <p v-if="!measured.length" class="muted">Nothing that sets are matched on was measured on these.</p>
    </fieldset>
    <p v-if="wrong && !wrong.fields.length" class="wrong" role="alert">{{ wrong.message }}</p>
    <button v-if="running" class="side-act" type="button" @click="$emit('stop')">Stop matching</button>
    <button v-else class="main-act" type="submit" :disabled="none">Make sets of {{ size }}</button>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 14px;
  align-content: start;
}
fieldset {
  border: 0;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 6px;
}
legend {
  padding: 0;
  margin-bottom: 4px;
}
.feature {
  display: grid;
  gap: 4px;
}
[role='switch'] {
  min-height: 46px;
  text-align: left;
  padding: 0 12px;
  border: 2px dashed var(--edge);
  border-radius: 6px;
  background: none;
  cursor: pointer;
  display: flex;
  justify-content: space-between;
  align-items: center;
}
[role='switch'][aria-checked='true'] {
  border: 2px solid var(--act);
  background: var(--act-soft);
  font-weight: 700;
}
[role='switch'] .small {
  font-weight: 400;
}
</style>
