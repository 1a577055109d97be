<script setup lang="ts">
import type { SchoolOf } from '@/api/types';
import { methodSays } from '@/domain/language';

/** What each house rule alone would have said of the set, check by check. */
defineProps<{ schools: SchoolOf[]; cylinder: number }>();
</script>

<template>
  <section aria-label="Methods side by side">
    <h2 class="minor">What each method alone would say</h2>
    <dl>
      <div v-for="one in schools" :key="one.check + one.school.name" :class="{ leads: one.school.leads }">
        <dt>
          <span class="muted">{{ one.check }}:</span> {{ one.school.name
          }}<span v-if="one.school.leads" class="muted small"> · used here</span>
        </dt>
        <dd :class="{ condemned: one.school.condemns.includes(cylinder) }">{{ methodSays(one.school) }}</dd>
      </div>
    </dl>
  </section>
</template>

<style scoped>
dl {
  margin: 4px 0 0;
}
div {
  border-top: 1px solid var(--line);
  padding: 6px 0 6px 8px;
  font-size: 0.88rem;
}
.leads {
  border-left: 4px solid var(--act);
}
dd {
  margin: 0;
}
.condemned {
  color: var(--too-much);
  font-weight: 700;
}
</style>
