<script setup lang="ts">
import {
  busyForWhile,
  connectionBreaksOffHalf,
  supplyVoltageDropsHalf,
  storesWrongPosition,
} from '@/codes/words';
/** Knobs of the stand-in: its conditions, and what goes wrong next. */
const emit = defineEmits<{ turn: [what: string, to: string] }>();
const FAULTS: [string, string][] = [
  ['none', 'nothing'],
  ['busy:3', busyForWhile],
  ['refuse', 'refuses'],
  ['drop:50', connectionBreaksOffHalf],
  ['sag:50', supplyVoltageDropsHalf],
  ['wrong-slot', storesWrongPosition],
];
const pick = (event: Event, what: string) => emit('turn', what, (event.target as HTMLSelectElement).value);
</script>

<template>
  <details>
    <summary>Simulated ECU: settings</summary>
    <div class="knobs">
      <label for="fault">Next fault</label>
      <select id="fault" @change="pick($event, 'fault')">
        <option v-for="[value, word] in FAULTS" :key="value" :value="value">{{ word }}</option>
      </select>
      <label for="ignition">Ignition</label>
      <select id="ignition" @change="pick($event, 'ignition')">
        <option value="on">on</option>
        <option value="off">off</option>
      </select>
      <label for="engine">Engine</label>
      <select id="engine" @change="pick($event, 'engine')">
        <option value="off">off</option>
        <option value="on">running</option>
      </select>
      <label for="volts">Supply voltage</label>
      <select id="volts" @change="pick($event, 'volts')">
        <option value="12.8">12.8 V</option>
        <option value="13.8">13.8 V, charger on</option>
        <option value="11.4">11.4 V</option>
      </select>
    </div>
  </details>
</template>

<style scoped>
summary {
  min-height: 44px;
  display: flex;
  align-items: center;
  cursor: pointer;
  color: var(--act);
  text-decoration: underline;
}
.knobs {
  display: grid;
  grid-template-columns: 90px 1fr;
  gap: 8px;
  align-items: center;
}
select {
  min-height: 46px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  color: inherit;
  font: inherit;
}
</style>
