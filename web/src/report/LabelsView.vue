<script setup lang="ts">
import { toRef } from 'vue';
import { day } from '@/domain/time';
import { sayHeadline } from '@/shell/useHeadline';
import StateLine from '@/shell/StateLine.vue';
import PrintTools from './PrintTools.vue';
import { usePaper } from './usePaper';
import { useReport } from './useReport';
import { scanOneToOpen } from '@/report/words';

/** A label for each injector: the code that opens its passport, and what a hand can read. */
const props = defineProps<{ id: string }>();
const { file, report, pending, error, again } = useReport(toRef(props, 'id'));
const { paper } = usePaper();
const code = (cylinder: number) => report.value?.coding?.slots.find((one) => one.cylinder === cylinder)?.own;
sayHeadline('Labels', scanOneToOpen);
</script>

<template>
  <StateLine v-if="!file || !report" :loading="pending" :error="error" @again="again" />
  <main v-else>
    <PrintTools v-model:paper="paper">
      <RouterLink class="side-act" :to="`/jobs/${id}/report`">Back to report</RouterLink>
    </PrintTools>
    <div class="sheet">
      <RouterLink
        v-for="one in report.labels"
        :key="one.injector"
        class="label"
        :to="`/passports/${one.injector}`"
      >
        <svg :viewBox="`0 0 ${one.size} ${one.size}`" role="img" :aria-label="`Trim code of ${one.label}`">
          <path :d="one.path" />
        </svg>
        <span class="words">
          <strong>{{ one.label || `cylinder ${one.cylinder}` }}</strong>
          <span>cyl {{ one.cylinder }}, job {{ file.job.number }}</span>
          <span v-if="file.family">{{ file.family }}</span>
          <span v-if="code(one.cylinder)" class="code">{{ code(one.cylinder) }}</span>
          <span>{{ day(file.job.taken_in.at) }}</span>
        </span>
      </RouterLink>
    </div>
  </main>
</template>

<style scoped>
.sheet {
  display: flex;
  flex-wrap: wrap;
  gap: 4mm;
  max-width: 200mm;
  margin: 0 auto;
  padding: 10px;
}
/* 62 by 29 mm: the usual size of a label roll. */
.label {
  width: 62mm;
  height: 29mm;
  display: grid;
  grid-template-columns: 27mm 1fr;
  gap: 1mm;
  align-items: center;
  border: 1px dashed #777;
  background: #fff;
  color: #000;
  text-decoration: none;
  overflow: hidden;
  break-inside: avoid;
}
svg {
  width: 27mm;
  height: 27mm;
}
.words {
  display: grid;
  font-size: 8.5pt;
  line-height: 1.2;
  overflow-wrap: anywhere;
}
.words strong {
  font-size: 12pt;
}
.code {
  font-weight: 700;
}
@media print {
  .sheet {
    padding: 0;
    margin: 0;
  }
}
</style>
