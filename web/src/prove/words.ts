/** What this part says in sentences. */
export const numbersNeeded = 'Enter numbers, at least one.';
