<script setup lang="ts">
import { computed, ref } from 'vue';
import type { FeatureForm, KeptSet, Tested } from '@/api/types';

/** The shelf, one injector a line: what is known of it, and what is to be done with it. */
const props = defineProps<{
  lines: Tested[];
  features: FeatureForm[];
  kept: KeptSet[];
  used: (id: string, heldBack: boolean) => boolean;
  group: (id: string) => number;
}>();
const emit = defineEmits<{
  use: [id: string, heldBack: boolean];
  bind: [ids: string[]];
  loose: [n: number];
}>();
const chosen = ref<string[]>([]);
const columns = computed(() => props.features.filter((one) => one.measured > 0));
const value = (one: Tested, feature: string) => one.values.find((held) => held.feature === feature);
const inSet = (id: string) => props.kept.find((set) => set.members.includes(id));
const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ';
function bind() {
  emit('bind', chosen.value);
  chosen.value = [];
}
</script>

<template>
  <div class="scroll">
    <table>
      <thead>
        <tr>
          <th scope="col">Injector</th>
          <th v-for="one in columns" :key="one.feature" scope="col" class="number">
            {{ one.word }} <span class="unit">{{ one.unit }}</span>
          </th>
          <th scope="col">Group</th>
          <th scope="col">Use</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="one in lines"
          :key="one.injector"
          :class="{ out: !used(one.injector, !!one.held_back) || inSet(one.injector) }"
        >
          <th scope="row">
            <strong>{{ one.label || `cylinder ${one.cylinder}` }}</strong>
            <span class="muted small"> job {{ one.job_number }}, {{ one.round }}</span>
            <span v-if="one.held_back" class="held small">{{ one.held_back }}</span>
          </th>
          <td v-for="column in columns" :key="column.feature" class="number">
            <template v-if="value(one, column.feature)">
              {{ value(one, column.feature)!.shown }}
              <span class="muted small">{{ value(one, column.feature)!.condition }}</span>
            </template>
            <span v-else class="muted">–</span>
          </td>
          <td>
            <button
              v-if="group(one.injector) >= 0"
              class="tap on"
              type="button"
              :aria-label="`${one.label} stays with group ${LETTERS[group(one.injector) % 26]}: release it`"
              @click="emit('loose', group(one.injector))"
            >
              {{ LETTERS[group(one.injector) % 26] }}
            </button>
            <input
              v-else
              v-model="chosen"
              type="checkbox"
              :value="one.injector"
              :aria-label="`Choose ${one.label}`"
            />
          </td>
          <td>
            <span v-if="inSet(one.injector)" class="small">in set {{ inSet(one.injector)!.number }}</span>
            <button
              v-else
              class="tap"
              type="button"
              :aria-pressed="used(one.injector, !!one.held_back)"
              :aria-label="`Use ${one.label}: ${used(one.injector, !!one.held_back) ? 'yes' : 'no'}`"
              @click="emit('use', one.injector, !!one.held_back)"
            >
              <span aria-hidden="true">{{ used(one.injector, !!one.held_back) ? 'yes' : 'no' }}</span>
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <button v-if="chosen.length > 1" class="side-act" type="button" @click="bind">
      Group these {{ chosen.length }}
    </button>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  text-align: left;
  font-weight: 400;
  padding: 2px 10px 2px 0;
  border-bottom: 1px solid var(--line);
  height: 48px;
}
thead th {
  color: var(--muted);
  font-size: 0.85rem;
  height: 36px;
}
.number {
  text-align: right;
}
td.number {
  font-size: 1.1rem;
  white-space: nowrap;
}
td .small {
  display: block;
}
.out th,
.out td {
  color: var(--muted);
}
.held {
  display: block;
  color: var(--look);
  font-weight: 700;
}
.tap {
  min-width: 54px;
  min-height: 44px;
  border: 2px dashed var(--edge);
  border-radius: 6px;
  background: none;
  cursor: pointer;
}
.tap[aria-pressed='true'],
.tap.on {
  border: 2px solid var(--act);
  background: var(--act-soft);
}
input[type='checkbox'] {
  width: 30px;
  height: 30px;
  margin: 7px 0 7px 12px;
}
.side-act {
  margin: 10px 0;
}
</style>
