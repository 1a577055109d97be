<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { ask, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { CellForm, LibraryItem } from '@/api/types';
import { newId } from '@/domain/identity';
import { asRead } from '@/domain/units';
import PlainDialog from '@/shell/PlainDialog.vue';

/** Settings of a check that this workshop keeps: filled in by one tap, saved from what stands there. */
const props = defineProps<{ check: string; cells: readonly CellForm[]; text: (cell: string) => string }>();
const emit = defineEmits<{ say: [cell: string, typed: string] }>();
const cache = useQueryClient();
const query = useQuery({
  queryKey: computed(() => ['presets', props.check]),
  queryFn: () => ask('get', '/api/library/presets/{check}', { params: { path: { check: props.check } } }),
});
const held = computed(() => query.data.value ?? []);
const kept = computed(() => props.cells.filter((one) => one.preset));
const filled = computed(() => kept.value.filter((one) => props.text(one.name)));
/** They fill what is empty; what stands there already is not in question. */
const offered = computed(() => (filled.value.length && !used.value ? [] : held.value));
const noteOf = (item: LibraryItem) => (item.detail.kind === 'preset' ? item.detail.note : '');
const used = ref<LibraryItem>();
function use(item: LibraryItem) {
  if (item.detail.kind !== 'preset') return;
  used.value = item;
  for (const { cell, typed } of item.detail.cells) {
    const form = kept.value.find((one) => one.name === cell);
    const text = asRead(typed, form);
    if (form && props.text(cell) !== text) emit('say', cell, text);
  }
}

const [naming, name, wrong] = [ref(false), ref(''), ref('')];
async function save() {
  const cells = filled.value.map((one) => ({ cell: one.name, typed: props.text(one.name) }));
  const body = { id: newId(), revision: 0, name: name.value, check: props.check, cells, note: '' };
  try {
    await act('put', '/api/library/presets', { body });
    await cache.invalidateQueries({ queryKey: ['presets'] });
    [naming.value, name.value, wrong.value] = [false, '', ''];
  } catch (error) {
    const problem = refusal(error);
    wrong.value = problem.fields[0]?.message ?? problem.message;
  }
}
</script>

<template>
  <div
    v-if="kept.length && (offered.length || filled.length)"
    class="presets"
    :class="{ last: !offered.length }"
  >
    <button v-for="item in offered" :key="item.id" class="side-act" type="button" @click="use(item)">
      Use {{ item.name }}
    </button>
    <button v-if="filled.length" class="link-act" type="button" @click="naming = true">Save as preset</button>
    <p v-if="used && noteOf(used)" class="caution">{{ noteOf(used) }}</p>
    <PlainDialog v-if="naming" title="Save as preset" @close="naming = false">
      <form @submit.prevent="save">
        <label for="preset-named">Name</label>
        <input id="preset-named" v-model="name" autocomplete="off" />
        <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
        <button class="main-act" type="submit">Save preset</button>
      </form>
    </PlainDialog>
  </div>
</template>

<style scoped>
.presets {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
/* What is filled is saved after its fields, what is empty is filled before them. */
.last {
  order: 9;
}
.presets .caution {
  flex-basis: 100%;
}
form {
  display: grid;
  gap: 8px;
  justify-items: start;
}
input {
  min-height: 48px;
  width: 100%;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 10px;
}
</style>
