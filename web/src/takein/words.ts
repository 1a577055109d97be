/** What this part says in sentences. */
export const bookJob = 'Book in a job';
export const readFaultCodes = (name: string) => `Read fault codes by ${name}`;
