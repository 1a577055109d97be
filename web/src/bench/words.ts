/** What this part says in sentences. */
export const startBenchSession = 'Start a bench session';
export const injectorsOneJobSeveral = 'injectors of one job or of several';
export const minRunsRingsBoard = (word: string | number, minutes: string | number) =>
  `${word}, ${minutes} min: it runs, and rings on the board.`;
export const tubesDownColumnsAcross = 'tubes down the columns or across the rows';
export const readingsFile = 'readings from a file';
export const runsOn = (name: string): string => `Run on ${name}`;
export const takesInto = (row: string, what: string): string => (row ? `${what} into ${row}` : what);
export const checkAndCleanOrdered = 'Check and clean was ordered.';
