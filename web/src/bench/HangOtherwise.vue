<script setup lang="ts">
import { computed, ref } from 'vue';
import { refusal } from '@/api/client';
import type { RailPlace } from '@/api/types';
import PlainDialog from '@/shell/PlainDialog.vue';
import { useSession } from './useSession';

/** The same set again with the injectors at other positions: what stays with a position is the rail. */
const emit = defineEmits<{ close: [] }>();
const session = useSession();
const tags = session.tags.value;
const now = session.rounds.value.at(-1)?.places ?? [];
/** Each one place on, the last one to the front. */
const order = ref<number[]>(
  tags.map((_, i) => now.find((one) => one.position === (i === 0 ? tags.length : i))?.tag ?? tags[i]!),
);
const wrong = ref('');
const places = computed<RailPlace[]>(() => order.value.map((tag, i) => ({ position: i + 1, tag })));

/** Two change places: each position keeps exactly one. */
function hang(at: number, tag: number) {
  const other = order.value.indexOf(tag);
  const was = order.value[at]!;
  order.value = order.value.map((held, i) => (i === at ? tag : i === other ? was : held));
}
async function begin() {
  try {
    await session.begin(session.rounds.value.at(-1)?.stage ?? 'received', places.value);
    emit('close');
  } catch (error) {
    wrong.value = refusal(error).fields[0]?.message ?? refusal(error).message;
  }
}
</script>

<template>
  <PlainDialog title="Repeat in new positions" @close="emit('close')">
    <p class="muted">
      A fault that stays with a position, whichever injector is there, is in the rail or the tube.
    </p>
    <div class="rail">
      <label v-for="(tag, i) in order" :key="i">
        <span class="small">position {{ i + 1 }}</span>
        <select
          :value="tag"
          :aria-label="`Injector at position ${i + 1}`"
          @change="hang(i, Number(($event.target as HTMLSelectElement).value))"
        >
          <option v-for="one in tags" :key="one" :value="one">{{ one }}</option>
        </select>
      </label>
    </div>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <button class="main-act" type="button" @click="begin">Start the repeat</button>
  </PlainDialog>
</template>

<style scoped>
.rail {
  display: flex;
  flex-wrap: wrap;
  border-top: 10px solid var(--ink);
}
label {
  display: grid;
  justify-items: center;
  padding: 4px 6px;
  border-left: 1px solid var(--line);
}
select {
  min-height: 52px;
  min-width: 62px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  color: inherit;
  font: inherit;
  font-size: 1.2rem;
  font-weight: 700;
}
</style>
