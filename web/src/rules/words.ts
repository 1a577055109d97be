/** What this part says in sentences. */
export const eachChangeNewRevision = 'each change is a new revision; older tests keep theirs';
export const howOftenEachState = 'how often each state shows each outcome';
