<script setup lang="ts">
import type { SheetHandle, SheetSpot } from '@/sheet/useSheet';
import { useJob } from '@/job/useJob';
import { useKeys } from '@/shell/useKeys';
import { useExercise } from './useExercise';
import { readingsFrom } from './words';

/** In an exercise the made-up engine is read: all that is open at once, or the touched field again. */
const props = defineProps<{ sheet: SheetHandle; touched?: SheetSpot }>();
const job = useJob();
const exercise = useExercise(job);

async function take(spot?: SheetSpot) {
  const id = props.sheet.record.value?.id ?? (await props.sheet.needed());
  await exercise.readSheet(id, spot);
}
useKeys([{ key: 'r', word: 'take readings', run: () => void take() }]);
</script>

<template>
  <div v-if="exercise.is.value && !exercise.state.value?.marking" class="reads">
    <button class="main-act" type="button" :disabled="exercise.busy.value" @click="take()">
      Take readings <span class="key">R</span>
    </button>
    <button class="side-act" type="button" :disabled="!touched || exercise.busy.value" @click="take(touched)">
      Retest field
    </button>
    <span class="muted">{{ readingsFrom }}</span>
    <p v-if="exercise.wrong.value" class="wrong" role="alert">{{ exercise.wrong.value }}</p>
  </div>
</template>
