<script setup lang="ts">
import type { SchoolOf } from '@/api/types';

/** What each house rule alone would have said of the set, check by check. */
defineProps<{ schools: SchoolOf[]; cylinder: number }>();
const list = new Intl.ListFormat('en-GB');
const says = ({ school }: SchoolOf) => {
  const parts = [
    school.condemns.length ? `condemns ${list.format(school.condemns.map(String))}` : '',
    school.looks_at.length ? `looks at ${list.format(school.looks_at.map(String))}` : '',
  ].filter(Boolean);
  return parts.join(', ') || (school.silent ? 'says nothing' : 'condemns none');
};
</script>

<template>
  <section aria-label="Schools side by side">
    <h3>What each school alone would say</h3>
    <dl>
      <div v-for="one in schools" :key="one.check + one.school.name" :class="{ leads: one.school.leads }">
        <dt>
          <span class="muted">{{ one.check }}:</span> {{ one.school.name
          }}<span v-if="one.school.leads" class="muted small"> · followed here</span>
        </dt>
        <dd :class="{ condemned: one.school.condemns.includes(cylinder) }">{{ says(one) }}</dd>
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
