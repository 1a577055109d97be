<script setup lang="ts">
import { computed } from 'vue';
import type { FoundAt } from '@/api/types';
import { moment } from '@/domain/time';
import { useJob } from '@/job/useJob';
import InjectorMark from '@/strip/InjectorMark.vue';
import { DECISION, stage } from '@/words';

/** Cylinder by cylinder: what was found, what was decided by whom, and what the program had proposed. */
const { positions } = defineProps<{ positions: FoundAt[] }>();
const at = (cylinder: number) => positions.find((one) => one.cylinder === cylinder);
const job = useJob();
const order = computed(() => job.view.value?.banks.flat() ?? []);
const notes = computed(() => job.view.value?.file.notes ?? []);
</script>

<template>
  <article class="page technical">
    <table>
      <caption>
        Findings and decisions
      </caption>
      <tbody>
        <tr v-for="cylinder in order" :key="cylinder">
          <th scope="row">
            {{ cylinder }} <InjectorMark :mark="at(cylinder)?.mark ?? 'not_measured'" :size="22" silent />
          </th>
          <td>
            <p v-for="says in at(cylinder)?.found" :key="says" class="says">{{ says }}</p>
            <template v-if="!at(cylinder)?.found.length">Not measured.</template>
          </td>
          <td>
            <template v-if="job.decision(cylinder)"
              ><strong>{{ DECISION[job.decision(cylinder)!.decision] }}.</strong>
              {{ job.decision(cylinder)!.reason }}
              <template
                v-if="
                  job.decision(cylinder)!.proposed &&
                  job.decision(cylinder)!.proposed!.decision !== job.decision(cylinder)!.decision
                "
                ><br />Proposed: {{ DECISION[job.decision(cylinder)!.proposed!.decision].toLowerCase() }}:
                {{ job.decision(cylinder)!.proposed!.reason }}</template
              >
              {{ ' ' }}
              <span class="muted"
                >{{ job.person(job.decision(cylinder)!.signed.by) }},
                {{ moment(job.decision(cylinder)!.signed.at) }}</span
              >
            </template>
            <span v-else class="muted">not decided</span>
          </td>
        </tr>
      </tbody>
    </table>
    <section v-if="notes.length">
      <h2>Further notes</h2>
      <p v-for="note in notes" :key="note.id">
        <strong>{{ stage(note.stage).word }}:</strong> {{ note.text }}
        <span class="muted">{{ job.person(note.signed.by) }}, {{ moment(note.signed.at) }}</span>
      </p>
    </section>
  </article>
</template>

<style scoped>
.says {
  margin: 0;
}
@media print {
  .technical {
    break-before: page;
  }
}
</style>
