<script setup lang="ts">
import type { Verdict } from '@/api/types';
import InjectorMark from '@/strip/InjectorMark.vue';
import StripRow from '@/strip/StripRow.vue';
import { useUnits } from '@/shell/useUnits';

/** The rate of each cylinder and the word for it. */
const props = defineProps<{ verdict: Verdict | undefined }>();
const lane = (cylinder: number) => props.verdict?.lanes.find((one) => one.place === cylinder);
const { unit } = useUnits();
</script>

<template>
  <StripRow :word="unit('ml/min')">
    <template #default="{ cylinder }">
      <div class="result">
        <p class="value">
          <template v-if="lane(cylinder)?.shown"
            ><span v-if="lane(cylinder)?.at_least">≥</span>{{ lane(cylinder)!.shown }}</template
          ><template v-else>–</template>
        </p>
        <p class="mark" :data-mark="lane(cylinder)?.mark ?? 'not_measured'">
          <InjectorMark :mark="lane(cylinder)?.mark ?? 'not_measured'" :size="30" silent />
          <span>{{ lane(cylinder)?.word ?? 'not read' }}</span>
        </p>
      </div>
    </template>
  </StripRow>
</template>

<style scoped>
.result {
  text-align: center;
  padding: 6px 0 8px;
}
.value {
  font-size: min(var(--value), calc(33 * var(--cell)));
  font-weight: 700;
  line-height: 1.15;
  white-space: nowrap;
}
.value span {
  font-size: 0.75em;
}
.mark {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: center;
  gap: 0 6px;
  font-size: var(--word);
  font-weight: 700;
  line-height: 1.15;
  hyphens: auto;
  overflow-wrap: anywhere;
}
</style>
