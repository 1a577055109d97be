/** What this part says in sentences. */
export const openJobList = (n: string | number) => `open job ${n} of the list`;
