/** What this part says in sentences. */
export const bottlesCanSettle = 'Bottles can settle it';
export const bottlesCannotSettle = 'Bottles cannot settle it';
export const howLongDidRun = 'How long did it run?';
export const levelTimeFull = 'level, or the time it was full';
export const cylinderSelectBottleFull = (cylinder: string | number) =>
  `cylinder ${cylinder}: select it, or its bottle is full or at the mark`;
export const lineCameOff = 'a line came off';
export const bottleMovedSpilt = 'a bottle was moved or spilt';
export const engineSpeedNotSteady = 'engine speed not steady';
export const confirmWholeChecklist = 'confirm the whole checklist';
export const enterFinishedRun = 'enter a finished run';
export const stoppedBeforeTime = 'stopped before its time';
export const stopRunReadBottles = 'stop the run and read the bottles';
export const abortSavesRunBut = 'abort: saves the run, but does not count it';
export const noBottlesHere = 'no bottles here';
export const correctLength = 'Correct the length of this run';
export const correctReading = 'Correct this reading';
export const timeUp = (read: boolean): string =>
  read ? 'Time is up: the bottles are being read.' : 'Time is up: stop, and pull all hoses together.';
export const readsItself = (mark: number | null | undefined): string =>
  mark
    ? 'Each bottle is read as it reaches its mark. By hand: tap it, or press its number.'
    : 'The bottles are read when the time is up. By hand: tap a full one, or press its number.';
export const rawTrace = 'trace (CSV)';
export const begunByMistake = 'begun by mistake';
export const readTooLate = 'bottles read too late';
export const engineNotWarm = 'engine not at temperature';
export const cancelRunOrCorrection = 'cancel an empty run or a correction';
export const hoseAndFiring =
  'Looked at both? Then the reading counts as it is. Otherwise put it right and run again.';
