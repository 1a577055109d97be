/** Hands every block of the microphone over as it comes. */
class Recorder extends AudioWorkletProcessor {
  process(inputs) {
    const first = inputs[0]?.[0];
    if (first) this.port.postMessage(first.slice());
    return true;
  }
}
registerProcessor('recorder', Recorder);
