import { wavOf } from '@/domain/wav';
import recorderAt from './recorder.worklet.js?url&no-inline';
import { microphoneRefused } from './words';

/** How long one recording lasts, s. */
const SECONDS = 5;

/** The browser offers a microphone: only over a line that nobody listens in on, or on this machine. */
export const hasMicrophone = (): boolean =>
  window.isSecureContext && !!navigator.mediaDevices?.getUserMedia && 'AudioWorkletNode' in window;

/** Records some seconds with the microphone of this screen, as it hears: nothing is evened out. */
export async function recordHere(): Promise<Blob> {
  const plain = { echoCancellation: false, noiseSuppression: false, autoGainControl: false };
  const stream = await navigator.mediaDevices.getUserMedia({ audio: plain }).catch(() => undefined);
  if (!stream) throw new Error(microphoneRefused);
  const context = new AudioContext();
  try {
    await context.audioWorklet.addModule(recorderAt).catch(() => {
      throw new Error(microphoneRefused);
    });
    const source = context.createMediaStreamSource(stream);
    const recorder = new AudioWorkletNode(context, 'recorder');
    const wanted = Math.round(context.sampleRate * SECONDS);
    const samples = new Float32Array(wanted);
    let held = 0;
    await new Promise<void>((done) => {
      recorder.port.onmessage = ({ data }: MessageEvent<Float32Array>) => {
        const some = data.subarray(0, wanted - held);
        samples.set(some, held);
        held += some.length;
        if (held >= wanted) done();
      };
      source.connect(recorder);
    });
    return wavOf(samples, context.sampleRate);
  } finally {
    for (const track of stream.getTracks()) track.stop();
    await context.close();
  }
}
