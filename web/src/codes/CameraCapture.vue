<script setup lang="ts">
import { onBeforeUnmount, ref, useTemplateRef } from 'vue';
import { cameraNotAvailableScan } from '@/codes/words';

/** Reads a code by camera, where this browser can tell codes in a picture; elsewhere it is not offered. */
interface Found {
  rawValue: string;
}
interface Detector {
  detect(source: HTMLVideoElement): Promise<Found[]>;
}
const emit = defineEmits<{ read: [text: string] }>();
const make = (window as { BarcodeDetector?: new () => Detector }).BarcodeDetector;
const offered = !!make && !!navigator.mediaDevices?.getUserMedia;
/** How often the picture is looked at, ms. */
const LOOK = 200;
const video = useTemplateRef<HTMLVideoElement>('video');
const wrong = ref('');
const on = ref(false);
let stream: MediaStream | undefined;
let timer: number | undefined;

function stop() {
  window.clearInterval(timer);
  stream?.getTracks().forEach((track) => track.stop());
  stream = undefined;
  on.value = false;
}
async function start() {
  if (!make) return;
  const detector = new make();
  try {
    stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: 'environment' } });
  } catch {
    wrong.value = cameraNotAvailableScan;
    return;
  }
  on.value = true;
  if (video.value) video.value.srcObject = stream;
  // A picture that does not come yet is looked at when it comes.
  void video.value?.play().catch(() => undefined);
  timer = window.setInterval(async () => {
    if (!video.value || !on.value) return;
    const [first] = await detector.detect(video.value).catch(() => []);
    if (first && on.value) {
      stop();
      emit('read', first.rawValue);
    }
  }, LOOK);
}
onBeforeUnmount(stop);
</script>

<template>
  <div v-if="offered">
    <button v-if="!on" class="side-act" type="button" @click="start">Read by camera</button>
    <button v-else class="side-act" type="button" @click="stop">Stop camera</button>
    <video v-show="on" ref="video" muted playsinline aria-label="Camera"></video>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
  </div>
</template>

<style scoped>
video {
  width: 100%;
  border: 2px solid var(--edge);
  border-radius: 6px;
}
</style>
