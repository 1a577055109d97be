/** What this part says in sentences. */
export const nothingElseKept = 'Name, telephone, address, machines, jobs: nothing else is kept.';
