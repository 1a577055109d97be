/** What this part says in sentences. */
export const continuePlan = 'continue with the plan';
export const fileNotRead = 'The file could not be read.';
