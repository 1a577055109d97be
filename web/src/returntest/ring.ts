/** Three short tones. Silent where the browser allows no sound yet; the screen says it too. */
export function ring(): void {
  try {
    const audio = new AudioContext();
    for (const at of [0, 0.35, 0.7]) {
      const tone = audio.createOscillator();
      tone.frequency.value = 880;
      tone.connect(audio.destination);
      tone.start(audio.currentTime + at);
      tone.stop(audio.currentTime + at + 0.2);
    }
  } catch {
    // No sound device: the large red time remains.
  }
}
