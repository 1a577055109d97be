/** A mono WAV of 16 bits from samples between -1 and 1. */
export function wavOf(samples: Float32Array, rate: number): Blob {
  const data = new DataView(new ArrayBuffer(44 + samples.length * 2));
  const text = (at: number, word: string) =>
    [...word].forEach((letter, i) => data.setUint8(at + i, letter.charCodeAt(0)));
  text(0, 'RIFF');
  data.setUint32(4, 36 + samples.length * 2, true);
  text(8, 'WAVEfmt ');
  data.setUint32(16, 16, true);
  data.setUint16(20, 1, true);
  data.setUint16(22, 1, true);
  data.setUint32(24, rate, true);
  data.setUint32(28, rate * 2, true);
  data.setUint16(32, 2, true);
  data.setUint16(34, 16, true);
  text(36, 'data');
  data.setUint32(40, samples.length * 2, true);
  samples.forEach((value, i) => {
    const held = Math.max(-1, Math.min(1, value));
    data.setInt16(44 + i * 2, Math.round(held * 0x7fff), true);
  });
  return new Blob([data.buffer], { type: 'audio/wav' });
}
