/** What this part says in sentences. */
export const noConnections =
  'No connections yet. Add an instrument by its address, or run cobaltine bench-world for simulated ones.';
export const onlyListed =
  'Only the addresses listed here are ever contacted. A reading by hand is possible everywhere.';
export const recordsOnly = 'Takes recordings: use it in Listening and Current ramp.';
export const lostFor = (seconds: number): string =>
  `No connection to Cobaltine for ${seconds} s. Recording goes on there.`;
export const wasLost = (seconds: number): string => `The screen missed ${seconds} s. The recording has them.`;
export const streamRefused = 'This instrument cannot be shown now.';
export const ago = (seconds: number): string =>
  seconds < 1 ? 'now' : seconds < 90 ? `${Math.round(seconds)} s ago` : `${Math.round(seconds / 60)} min ago`;
export const byHand = 'by hand';
export const byInstrument = 'instrument';
