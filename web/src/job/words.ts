/** What this part says in sentences. */
export const standCheckForAir = 'stand, check for air';
