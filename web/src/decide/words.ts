/** What this part says in sentences. */
export const agreeWhatProposed = 'agree with what is proposed';
export const minToRemove = (removal_minutes: string | number) => `${removal_minutes} min to remove it`;
export const complaintIs = 'The complaint is';
/** What can have become of the complaint after a repair, with its button. */
export const COMPLAINT_NOW = [
  ['gone', 'Gone'],
  ['better', 'Better, still there'],
  ['same', 'The same'],
] as const;
