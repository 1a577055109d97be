/** What this part says in sentences. */
export const startNextStep = 'start the next step';
