<script setup lang="ts">
import { computed } from 'vue';
import type { BoardCard } from '@/api/types';
import StripSmall from '@/strip/StripSmall.vue';
import { age, promised } from '@/domain/time';
import { stage, SYMPTOM } from '@/words';

const props = defineProps<{ card: BoardCard }>();
const complaint = computed(
  () => props.card.symptoms.map((one) => SYMPTOM[one]).join(', ') || props.card.complaint,
);
const aged = computed(() => (props.card.booked ? age(props.card.booked) : ''));
const promise = computed(() => (props.card.promised ? promised(props.card.promised) : undefined));
const to = computed(() => `/jobs/${props.card.id}/${stage(props.card.waits.stage).path}`);
</script>

<template>
  <li>
    <RouterLink class="row" :to="to">
      <span class="what">
        <strong>{{ card.machine }}</strong>
        <span class="muted small">{{ card.number }} · {{ card.engine }} · {{ card.customer }}</span>
      </span>
      <span class="complaint"
        >{{ complaint }}<em v-if="card.reopened" class="again small">reopened: {{ card.reopened }}</em>
        <span class="muted small">
          {{ aged }}<template v-if="card.by"> · {{ card.by }}</template
          ><strong v-if="promise" :class="{ late: promise.late }"> · {{ promise.says }}</strong>
        </span>
      </span>
      <StripSmall :banks="card.banks" />
      <span class="waits" :class="card.waits.tone">
        <strong>{{ stage(card.waits.stage).word }}</strong>
        <span>{{ card.waits.words }}</span>
        <span v-if="card.next" class="small">next: {{ card.next }}</span>
      </span>
    </RouterLink>
  </li>
</template>

<style scoped>
.row {
  display: grid;
  /* Twelve injectors and the gap between banks are the widest strip: every row keeps that place. */
  grid-template-columns: minmax(200px, 1.1fr) minmax(120px, 0.7fr) 396px minmax(250px, 1.5fr);
  gap: 6px 16px;
  align-items: center;
  padding: 8px 22px;
  min-height: 64px;
  border-bottom: 1px solid var(--line);
  color: inherit;
  text-decoration: none;
}
.row:hover {
  background: var(--act-soft);
}
.what {
  display: flex;
  flex-direction: column;
  min-width: 0;
}
.what strong {
  font-size: 1.08rem;
}
.complaint .small {
  display: block;
}
.late {
  color: var(--too-much);
}
.again {
  display: block;
  color: var(--look);
  font-style: normal;
}
.waits {
  border-left: 5px solid var(--not-measured);
  padding-left: 12px;
  display: flex;
  flex-direction: column;
  line-height: 1.3;
}
.running {
  border-color: var(--act);
}
.waiting {
  border-color: var(--look);
}
.unsure {
  border-color: var(--undecided);
}
.done {
  border-color: var(--inside);
}
@media (max-width: 1100px) {
  .row {
    grid-template-columns: 1fr auto;
  }
  .complaint {
    justify-self: end;
    text-align: right;
  }
}
</style>
