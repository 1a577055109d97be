<script setup lang="ts">
import { computed } from 'vue';
import type { CellForm } from '@/api/types';
import { moment } from '@/domain/time';
import { asRead } from '@/domain/units';
import { useJob } from '@/job/useJob';
import { useSheetForms } from '@/sheet/useSheetForms';

/** Every check that was read cell by cell: what was typed, what came of it, with what and by whom. */
const job = useJob();
const forms = useSheetForms();
const order = computed(() => job.view.value?.banks.flat() ?? []);
const stand = computed(() => new Set(job.view.value?.current.cells));
const checks = computed(() =>
  (job.view.value?.file.sheets ?? []).flatMap((record, i) => {
    const form = forms.data.value?.find((one) => one.id === record.check);
    const view = job.view.value!.sheets[i];
    if (!form || !view || !record.readings.length) return [];
    const typed = (cell: string, cylinder: number | null) =>
      record.readings.find(
        (one) => stand.value.has(one.id) && one.cell === cell && (one.cylinder ?? null) === cylinder,
      )?.typed ?? '';
    const read = (cell: CellForm, cylinder: number | null) => asRead(typed(cell.name, cylinder), cell);
    const conditions = form.set.flatMap((cell) => {
      const text = read(cell, null);
      if (!text) return [];
      return [`${cell.word.toLowerCase()} ${cell.choices[Number(text)] ?? `${text} ${cell.unit}`.trim()}`];
    });
    return [{ record, form, view, read, conditions }];
  }),
);
const lane = (i: number, cylinder: number) =>
  checks.value[i]?.view.verdict?.lanes.find((one) => one.place === cylinder);
</script>

<template>
  <article v-if="checks.length" class="page">
    <h2>Checks across the cylinders</h2>
    <section v-for="(check, i) in checks" :key="check.record.id">
      <h3>{{ check.form.title }}</h3>
      <p class="muted small">
        {{ job.person(check.record.signed.by) }}, {{ moment(check.record.signed.at)
        }}<template v-if="check.record.instrument">; with {{ check.record.instrument.name }}</template
        ><template v-if="check.conditions.length">; {{ check.conditions.join(', ') }}</template
        >.
      </p>
      <p>
        <strong>{{ check.view.verdict?.headline ?? check.view.refused }}</strong>
        {{ check.view.verdict?.advice.join(' ') }} {{ check.view.verdict?.flags.join(' ') }}
      </p>
      <table>
        <thead>
          <tr>
            <th scope="col">Cylinder</th>
            <th v-for="cylinder in order" :key="cylinder" scope="col">{{ cylinder }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="cell in check.form.each" :key="cell.name">
            <th scope="row">
              {{ cell.word }} <span class="unit">{{ cell.unit }}</span>
            </th>
            <td v-for="cylinder in order" :key="cylinder">{{ check.read(cell, cylinder) }}</td>
          </tr>
          <tr>
            <th scope="row">
              Result <span class="unit">{{ check.view.verdict?.unit }}</span>
            </th>
            <td v-for="cylinder in order" :key="cylinder">
              {{ lane(i, cylinder)?.shown }} <strong>{{ lane(i, cylinder)?.word }}</strong>
            </td>
          </tr>
        </tbody>
      </table>
    </section>
  </article>
</template>

<style scoped>
section {
  display: grid;
  gap: 6px;
  break-inside: avoid;
}
table {
  border-collapse: collapse;
  width: 100%;
  table-layout: fixed;
}
th,
td {
  border-bottom: 1px solid var(--line);
  padding: 4px 6px;
  text-align: left;
  overflow-wrap: anywhere;
}
</style>
