<script setup lang="ts">
import { computed, nextTick, ref } from 'vue';
import { ask, type Refusal } from '@/api/client';
import type { CaptureRequest, Capture, ReadCode, SlotView } from '@/api/types';
import { newId } from '@/domain/identity';
import { useJob } from '@/job/useJob';
import CameraCapture from './CameraCapture.vue';

/**
 * The code of one injector: a scanner types it and ends with Enter; pasted it is taken as it is; typed
 * by hand it is asked for twice, the first hidden, so that the second is read off the body again.
 */
const props = defineProps<{
  slotView: SlotView;
  wrong?: Refusal;
  capture: (body: CaptureRequest) => Promise<boolean>;
}>();
const emit = defineEmits<{ kept: [] }>();
const job = useJob();
const typed = ref('');
const again = ref('');
const twice = ref(false);
const looked = ref<ReadCode>();
const second = ref<HTMLInputElement>();
/** Faster than any hand: a scanner. */
const SCANNER_MS = 45;
let first = 0;
let pasted = false;
const how = ref<Capture>('typed_twice');
const problem = computed(
  () => looked.value?.problem || props.wrong?.about('again') || props.wrong?.about('typed') || '',
);

function keyed(event: KeyboardEvent) {
  const changes = event.key.length === 1 || event.key === 'Backspace' || event.key === 'Delete';
  if (!changes || event.ctrlKey || event.metaKey) return;
  // What was pasted and then changed by hand was typed by hand.
  pasted = false;
  if (typed.value === '') first = performance.now();
}
function paste() {
  pasted = true;
}
async function enter() {
  const length = typed.value.trim().length;
  if (!length) return;
  const each = (performance.now() - first) / length;
  how.value = pasted ? 'pasted' : each < SCANNER_MS ? 'scanned' : 'typed_twice';
  looked.value = await ask('post', '/api/jobs/{job}/codes/look', {
    params: { path: { job: job.id.value } },
    body: { typed: typed.value },
  });
  if (looked.value.problem) return;
  if (how.value === 'typed_twice') {
    twice.value = true;
    await nextTick();
    second.value?.focus();
    return;
  }
  await keep();
}
async function keep() {
  const kept = await props.capture({
    id: newId(),
    injector: props.slotView.injector,
    typed: typed.value,
    again: twice.value ? again.value : null,
    how: how.value,
  });
  if (kept) emit('kept');
  else {
    [typed.value, again.value, twice.value, pasted] = ['', '', false, false];
  }
}
/** Read off a picture: nobody typed it, so it is not asked for twice. */
async function seen(text: string) {
  typed.value = text;
  how.value = 'camera';
  looked.value = await ask('post', '/api/jobs/{job}/codes/look', {
    params: { path: { job: job.id.value } },
    body: { typed: text },
  });
  if (!looked.value.problem) await keep();
}
function take(code: string) {
  typed.value = code;
  looked.value = undefined;
  twice.value = true;
  void nextTick(() => second.value?.focus());
}
</script>

<template>
  <form class="capture" @submit.prevent="twice ? keep() : enter()">
    <label for="code">Trim code on the body, cylinder {{ slotView.cylinder }} {{ slotView.label }}</label>
    <input
      id="code"
      v-model="typed"
      :type="twice ? 'password' : 'text'"
      autocomplete="off"
      autocapitalize="characters"
      spellcheck="false"
      :disabled="twice"
      :aria-invalid="!!problem"
      @keydown="keyed"
      @paste="paste"
    />
    <template v-if="twice">
      <label for="again">Second entry, from the body</label>
      <input
        id="again"
        ref="second"
        v-model="again"
        autocomplete="off"
        autocapitalize="characters"
        spellcheck="false"
        @paste.prevent
      />
    </template>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <p v-if="looked?.suggestions.length && looked.problem" class="meant">
      Did you mean
      <button v-for="one in looked.suggestions" :key="one" class="link-act" type="button" @click="take(one)">
        {{ one }}
      </button>
    </p>
    <button class="side-act" type="submit">{{ twice ? 'Save trim code' : 'Type code again' }}</button>
    <CameraCapture v-if="!twice" @read="seen" />
    <p class="muted small">Scan, paste or type it twice. O/0 and I/1 mix-ups are checked.</p>
  </form>
</template>

<style scoped>
.capture {
  display: grid;
  gap: 6px;
}
input {
  min-height: 54px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 12px;
  font-size: 1.4rem;
  font-weight: 700;
  letter-spacing: 0.08em;
  text-transform: uppercase;
}
input[aria-invalid='true'] {
  border-color: var(--too-much);
}
</style>
