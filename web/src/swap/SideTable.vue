<script setup lang="ts">
import type { SideBySide } from '@/api/types';
import { useUnits } from '@/shell/useUnits';

/** Two return tests of the same set, one after the other. */
defineProps<{ side: SideBySide }>();
const { unit } = useUnits();
</script>

<template>
  <div class="beside">
    <h2>The last two return tests</h2>
    <p v-if="side.refused" class="wrong">{{ side.refused }}</p>
    <p v-else class="muted">{{ side.label }}</p>
    <table v-if="!side.refused">
      <thead>
        <tr>
          <th scope="col">Cylinder</th>
          <th v-for="lane in side.lanes" :key="lane.cylinder" scope="col">
            {{ lane.cylinder }}
          </th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <th scope="row">before, {{ unit('ml/min') }}</th>
          <td v-for="lane in side.lanes" :key="lane.cylinder">{{ lane.before || '–' }}</td>
        </tr>
        <tr>
          <th scope="row">after</th>
          <td v-for="lane in side.lanes" :key="lane.cylinder">{{ lane.after || '–' }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.beside {
  margin-top: 16px;
  display: grid;
  gap: 6px;
}
table {
  border-collapse: collapse;
}
th,
td {
  border-bottom: 1px solid var(--line);
  padding: 6px 10px;
  text-align: left;
}
</style>
