<script setup lang="ts">
import { computed } from 'vue';
import { plain } from '@/domain/numbers';
import { useKeys } from '@/shell/useKeys';
import { useEntry } from './useEntry';
import { cancelRunOrCorrection, howLongDidRun, levelTimeFull } from '@/returntest/words';
import { CORRECTION } from '@/words';

/** The number pad: everything that the keyboard does, for gloves. */
const entry = useEntry();
const PAD = ['7', '8', '9', '4', '5', '6', '1', '2', '3', '0', '.', ':'];
const WHYS = ['typing_slip', 'misread', 'wrong_column'] as const;
const run = computed(() => entry.correcting.value?.run ?? entry.run.value);
const asks = computed(() => {
  const cylinder = entry.cylinder.value;
  const correcting = entry.correcting.value;
  if (correcting ? correcting.reading.kind === 'run_time' : cylinder === null) return howLongDidRun;
  return entry.overflow.value ? `Bottle ${cylinder}: full after` : `Bottle ${cylinder}: level`;
});
const unit = computed(() => (asks.value.startsWith('How') || entry.overflow.value ? 'min:s' : 'ml'));
const levels = computed(() => entry.cylinder.value !== null);

function press(key: string) {
  entry.typed.value += key;
  void entry.focus();
}
function back() {
  entry.typed.value = entry.typed.value.slice(0, -1);
  void entry.focus();
}
function turn() {
  entry.overflow.value = !entry.overflow.value;
  void entry.focus();
}
useKeys([
  {
    key: 'f',
    word: levelTimeFull,
    // A number is typed here, and a letter after it is its unit.
    within: (field) => field.matches('[data-entry]') && /^[\d.,:]*$/.test(field.value),
    run: turn,
  },
  {
    key: 'Escape',
    word: cancelRunOrCorrection,
    always: true,
    run: () => (entry.empty.value ? void entry.cancel() : entry.leave()),
  },
]);
</script>

<template>
  <div class="panel">
    <p class="muted">
      Run {{ run?.number
      }}<template v-if="entry.runs.length(run)">, {{ plain(entry.runs.length(run)!.value) }} s</template
      ><template v-if="entry.correcting.value">, correction</template>
    </p>
    <h2>
      {{ asks }} <span class="unit">{{ unit }}</span>
    </h2>
    <p class="typed" aria-hidden="true">{{ entry.typed.value || '–' }}</p>
    <p v-if="entry.wrong.value" id="entry-wrong" class="wrong" role="alert">{{ entry.wrong.value }}</p>
    <div class="pad">
      <button v-for="key in PAD" :key="key" type="button" @click="press(key)">{{ key }}</button>
    </div>
    <div class="two">
      <button type="button" @click="back">⌫</button>
      <button v-if="levels" type="button" :aria-pressed="entry.overflow.value" @click="turn">
        overflow <span class="key">F</span>
      </button>
    </div>
    <div v-if="entry.correcting.value" class="whys" role="radiogroup" aria-label="Why">
      <label v-for="why in WHYS" :key="why">
        <input v-model="entry.correcting.value.why" type="radio" :value="why" /> {{ CORRECTION[why] }}
      </label>
    </div>
    <button class="main-act" type="button" @click="entry.keep()">
      {{ entry.correcting.value ? 'Save correction' : 'Next' }} <span class="key">Enter</span>
    </button>
    <button v-if="entry.correcting.value" class="link-act" type="button" @click="entry.leave()">
      Cancel
    </button>
    <button v-if="entry.empty.value" class="link-act" type="button" @click="entry.cancel()">
      Cancel run <span class="key">Esc</span>
    </button>
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 9px;
}
.typed {
  font-size: 2.8rem;
  font-weight: 700;
  line-height: 1.1;
  min-height: 3.1rem;
}
.pad {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 7px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 2fr;
  gap: 7px;
}
.pad button,
.two button {
  min-height: 56px;
  border: 2px solid var(--edge);
  border-radius: 8px;
  background: var(--sheet);
  font-size: 1.35rem;
  font-weight: 700;
  cursor: pointer;
}
.two button {
  font-size: 1rem;
}
.two button[aria-pressed='true'] {
  background: var(--ink);
  color: var(--sheet);
}
.whys label {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 44px;
}
.whys input {
  width: 22px;
  height: 22px;
}
</style>
