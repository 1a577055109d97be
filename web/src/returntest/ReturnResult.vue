<script setup lang="ts">
import type { Verdict } from '@/api/types';
import InjectorMark from '@/strip/InjectorMark.vue';
import StripRow from '@/strip/StripRow.vue';
import { useUnits } from '@/shell/useUnits';

/** The rate of each cylinder and the word for it; on paper what was found stays as it was found. */
const props = defineProps<{ verdict: Verdict | undefined; print?: boolean }>();
const lane = (cylinder: number) => props.verdict?.lanes.find((one) => one.place === cylinder);
const past = (cylinder: number) => !props.print && !!lane(cylinder)?.standing;
const { unit } = useUnits();
</script>

<template>
  <StripRow :word="unit('ml/min')">
    <template #default="{ cylinder }">
      <div class="result" :class="{ past: past(cylinder) }">
        <p class="value">
          <template v-if="lane(cylinder)?.shown"
            ><span v-if="lane(cylinder)?.at_least">≥</span>{{ lane(cylinder)!.shown }}</template
          ><template v-else>–</template>
        </p>
        <p v-if="past(cylinder)" class="mark" data-mark="not_measured">
          <InjectorMark mark="not_measured" :size="30" silent />
          <span>{{ lane(cylinder)!.standing }}</span>
        </p>
        <p v-else class="mark" :data-mark="lane(cylinder)?.mark ?? 'not_measured'">
          <InjectorMark :mark="lane(cylinder)?.mark ?? 'not_measured'" :size="30" silent />
          <span>{{ lane(cylinder)?.word ?? 'not read' }}</span>
        </p>
        <p v-if="print && lane(cylinder)?.standing" class="then">{{ lane(cylinder)!.standing }}</p>
      </div>
    </template>
  </StripRow>
</template>

<style scoped>
.result {
  text-align: center;
  padding: 6px 0 8px;
}
.then {
  font-size: 0.8rem;
  color: var(--muted);
}
.past .value {
  color: var(--muted);
  font-weight: 400;
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
