/** What this part says in sentences. */
export const storedNow = (nothing: string | number) => ` Stored now: ${nothing}.`;
