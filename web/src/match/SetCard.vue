<script setup lang="ts">
import { computed } from 'vue';
import type { FeatureForm, MadeSet } from '@/api/types';
import InjectorMark from '@/strip/InjectorMark.vue';
import FeatureComb from './FeatureComb.vue';

/** One set: its injectors by their hang-tags, and how alike they are in each feature. */
const props = defineProps<{
  set: MadeSet;
  name: string;
  features: FeatureForm[];
  shelf: (number[] | undefined)[];
}>();
defineEmits<{ keep: [] }>();
const told = computed(() => props.set.spans.every((span) => span.state === 'within'));
const word = (span: MadeSet['spans'][number]) =>
  props.features.find((one) => one.feature === span.feature)?.word ?? span.feature;
const members = (k: number) => props.set.members.flatMap((one) => one.values[k] ?? []);
const ratio = (span: MadeSet['spans'][number]) =>
  props.features.find((one) => one.feature === span.feature)?.tolerance_unit === '%';
</script>

<template>
  <article :class="{ told }">
    <header>
      <InjectorMark :mark="told ? 'inside' : 'undecided'" :size="34" silent />
      <h3>{{ name }}</h3>
      <p>{{ set.says }}</p>
      <button v-if="!set.pinned" class="side-act" type="button" @click="$emit('keep')">
        Save {{ name.replace('Set', 'set') }}
      </button>
      <span v-else class="muted small">saved earlier</span>
    </header>
    <ol class="tags">
      <li v-for="one in set.members" :key="one.injector">
        <strong>{{ one.label || `cylinder ${one.cylinder}` }}</strong>
        <span class="muted small">job {{ one.job_number }}</span>
        <span class="shown">{{ one.shown.join(' · ') }}</span>
      </li>
    </ol>
    <dl>
      <div v-for="(span, k) in set.spans" :key="span.feature">
        <dt>
          {{ word(span) }} <strong>{{ span.shown }}</strong>
        </dt>
        <dd>
          <FeatureComb
            :shelf="shelf[k] ?? []"
            :members="members(k)"
            :tolerance="span.tolerance"
            :ratio="ratio(span)"
            :told="span.state === 'within'"
          />
        </dd>
      </div>
    </dl>
  </article>
</template>

<style scoped>
article {
  background: var(--sheet);
  border: 1px solid var(--line);
  border-left: 6px solid var(--undecided);
  padding: 8px 14px 12px;
  display: grid;
  gap: 8px;
}
article.told {
  border-left-color: var(--inside);
}
header {
  display: flex;
  align-items: center;
  gap: 10px;
}
header p {
  flex: 1;
}
.side-act {
  min-height: 44px;
}
/* A hang-tag: punched at the left, its corners cut. */
.tags {
  list-style: none;
  margin: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.tags li {
  position: relative;
  display: grid;
  padding: 4px 12px 4px 26px;
  background: var(--act-soft);
  clip-path: polygon(10px 0, 100% 0, 100% 100%, 10px 100%, 0 calc(100% - 12px), 0 12px);
}
.tags li::before {
  content: '';
  position: absolute;
  left: 8px;
  top: calc(50% - 5px);
  width: 10px;
  height: 10px;
  border-radius: 50%;
  background: var(--paper);
  border: 2px solid var(--edge);
}
.tags strong {
  font-size: 1.15rem;
}
.shown {
  font-size: 0.8rem;
}
dl {
  margin: 0;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(210px, 1fr));
  gap: 8px 22px;
}
dt {
  font-size: 0.85rem;
}
dd {
  margin: 0;
}
@media (max-width: 640px) {
  header {
    flex-wrap: wrap;
  }
}
</style>
