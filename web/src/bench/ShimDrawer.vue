<script setup lang="ts">
import { ref } from 'vue';
import { useQueryClient } from '@tanstack/vue-query';
import { refusal } from '@/api/client';
import { act } from '@/api/outbox';
import { newId } from '@/domain/identity';
import { useSession } from './useSession';

/** The drawer: what is on hand by size, and what was put in or taken out. */
defineProps<{ wanted: number[] }>();
const session = useSession();
const cache = useQueryClient();
const size = ref('');
const wrong = ref('');

async function put(of: string, moved: number) {
  try {
    await act('post', '/api/shims', { body: { id: newId(), size: of, moved } });
    size.value = '';
    wrong.value = '';
    await cache.invalidateQueries({ queryKey: ['bench', session.id.value] });
  } catch (error) {
    wrong.value = refusal(error).fields[0]?.message ?? refusal(error).message;
  }
}
</script>

<template>
  <section class="drawer" aria-label="Shims in stock">
    <h2>Shims in stock</h2>
    <ul>
      <li
        v-for="shim in session.view.value?.stock ?? []"
        :key="shim.size_um"
        :class="{ wanted: wanted.includes(shim.size_um), gone: shim.count === 0 }"
      >
        <strong>{{ shim.size_um }}</strong><span>{{ shim.count }}</span>
        <button
          type="button"
          :aria-label="`Add one of ${shim.size_um} µm`"
          @click="put(String(shim.size_um), 1)"
        >
          +
        </button>
      </li>
    </ul>
    <form @submit.prevent="put(size, 1)">
      <label for="shim-size">Size, µm</label>
      <input id="shim-size" v-model="size" inputmode="decimal" autocomplete="off" />
      <button class="side-act" type="submit">Add shim</button>
    </form>
    <p v-if="wrong" class="wrong small" role="alert">{{ wrong }}</p>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 6px 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(2, 1fr);
  gap: 4px;
}
li {
  display: grid;
  grid-template-columns: 1fr auto 44px;
  align-items: center;
  gap: 6px;
  border-left: 5px solid var(--edge);
  padding-left: 8px;
}
.wanted {
  border-color: var(--act);
  background: var(--act-soft);
}
.gone {
  color: var(--muted);
  border-style: dashed;
}
li button {
  min-height: 44px;
  border: 0;
  background: none;
  font-size: 1.3rem;
  color: var(--act);
  cursor: pointer;
}
form {
  display: grid;
  grid-template-columns: 1fr 80px auto;
  gap: 8px;
  align-items: center;
}
input {
  min-height: 46px;
  width: 100%;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 8px;
}
</style>
