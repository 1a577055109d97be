import type { TransferState, TransferView, TransferWhat, WorkshopImported } from '@/api/types';

export const goesOnAs = (name: string): string => `is now ${name}`;
export const leftOn = (day: string): string => `retired ${day}`;
export const linkFor = (name: string): string => `Link for ${name}, once, within three days:`;
export const noAccount = 'no account';
export const linkNotUsed = 'link not used yet';
export const accountClosed = 'account closed';
export const tabletsLead =
  'On an enrolled tablet a name and a PIN are enough, within an hour of the last touch. Enrol the screen that you hold now.';
export const makesNone = 'This workshop makes no backups: it is the demo.';
export const noBackupYet = 'No backup yet. Make one now.';
export const backupsOverdue = 'The next backup is late. Check the disk that it goes to.';
export const everyHours = (hours: number, keep: number): string =>
  hours
    ? `Every ${hours} hours; the newest ${keep} are kept.`
    : `Made by hand only; the newest ${keep} are kept.`;
export const size = (bytes: number): string =>
  bytes < 1_048_576 ? `${Math.ceil(bytes / 1024)} KiB` : `${(bytes / 1_048_576).toFixed(1)} MiB`;
export const restoreHint =
  'To restore one, run: cobaltine restore --backup FOLDER --data NEW-FOLDER. All of it is checked first.';

export const wholeOrNot =
  'People, instruments, rules, library and every job in one file. It is checked whole, then imported whole or not at all; existing data stays. Others can go on working.';
export const TRANSFERS: Record<TransferWhat, string> = {
  import: 'Workshop import',
  workshop: 'Workshop export',
  readings: 'Readings export',
};
const STAGES: Record<TransferState, string> = {
  checking: 'checking the file',
  importing: 'importing',
  exporting: 'writing the file',
  done: 'done',
  stopped: 'cancelled',
  refused: 'refused',
};
export const stage = (state: TransferState): string => STAGES[state];
export const cameIn = ({ new_jobs, same_jobs, lines }: WorkshopImported): string =>
  `${new_jobs} new ${new_jobs === 1 ? 'job' : 'jobs'}, ${same_jobs} already here; ${lines} lines.`;
export const refusedSays = ({ what, problem, fields }: TransferView): string =>
  what !== 'import' ? problem : `${fields.length ? 'The file was refused.' : problem} Nothing was imported.`;
