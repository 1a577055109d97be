/** What this part says in sentences. */
export const agreeWhatProposed = 'agree with what is proposed';
export const minToRemove = (removal_minutes: string | number) => `${removal_minutes} min to remove it`;
