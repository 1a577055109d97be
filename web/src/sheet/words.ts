/** What this part says in sentences. */
export const continuePlan = 'continue with the plan';
