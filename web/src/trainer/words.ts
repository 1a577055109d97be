/** What the trainer says in sentences. */
export const trainerSays = 'Made-up engines with a known truth. Nothing here counts in the workshop.';
export const noExercises = 'No exercises yet. Start a case.';
export const tryIt = 'Try it on a made-up engine';
export const tryItSays =
  'One worn injector, four bottles, about ten minutes. Nobody can be hurt, and it counts nowhere in the workshop.';
export const notMarked = 'still open';
export const setByOther = (name: string) => `set by ${name}`;
export const endSays = 'After the end nothing can be changed.';
export const bestWay = 'The best way through this case';
export const noMistakes = 'No mistake of procedure was noticed.';
export const pastCases = (count: number) => `over ${count} ${count === 1 ? 'case' : 'cases'}`;
export const seedHint = 'Any number up to nine digits. The same seed gives everybody the same engine.';
export const notACase = 'This file is no case of the trainer.';
export const timesBest = (times: number) => `${times.toFixed(1)} times the best way`;
export const readingsFrom = 'read at the made-up engine';
export const decideAll = (open: number) =>
  open === 0
    ? 'Every cylinder is decided.'
    : `${open} ${open === 1 ? 'cylinder' : 'cylinders'} not decided yet.`;

/** Minutes of the exercise as a clock. */
export function hours(minutes: number): string {
  const all = Math.round(minutes);
  return `${Math.floor(all / 60)}:${String(all % 60).padStart(2, '0')}`;
}
export const atOnce = 'at once';
