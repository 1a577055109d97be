/** What this part says in sentences. */
export const liveYouTypeShare = 'live as you type; share by link';
