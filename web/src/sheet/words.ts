/** What this part says in sentences. */
export const continuePlan = 'continue with the plan';
export const fileNotRead = 'The file could not be read.';
export const takeReadingOf = (word: string, cylinder: number | null): string =>
  cylinder === null ? word : `${word}, cylinder ${cylinder}`;
export const traceWith = (name: string): string => `Take trace with ${name}`;
export const tracing = (drops: number): string =>
  drops === 1 ? 'Recording: 1 drop so far.' : `Recording: ${drops} drops so far.`;
export const waitTrace = 'Recording: no drop yet.';
export const takeReading = 'take a reading with the instrument';
export const fromFile = 'files';
export const fromHere = 'this screen';
export const microphoneRefused = 'The microphone cannot be used. Allow it in the browser, or choose a file.';
export const hintNoProof =
  'CSV of time and current while the starter turns. A hint, no proof: confirm with the gauge.';
export const traceFull = 'The trace is full. Stop it to find its drops.';
