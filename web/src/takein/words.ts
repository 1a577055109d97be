/** What this part says in sentences. */
export const bookJob = 'Book in a job';
