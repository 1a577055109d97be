export const goesOnAs = (name: string): string => `is now ${name}`;
export const leftOn = (day: string): string => `retired ${day}`;
export const linkFor = (name: string): string => `Link for ${name}, once, within three days:`;
export const noAccount = 'no account';
export const linkNotUsed = 'link not used yet';
export const accountClosed = 'account closed';
export const tabletsLead =
  'On an enrolled tablet a name and a PIN are enough, within an hour of the last touch. Enrol the screen that you hold now.';
