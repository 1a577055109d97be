/** What this part says in sentences. */
export const firstOwner = 'Make the owner’s account';
export const firstOwnerLead =
  'The owner lets everybody else in. The name may be one that already signs in this workshop.';
export const choosePassword = 'Choose your password';
export const choosePasswordLead =
  'This link works once. Afterwards you sign in with your name and this password.';
export const whoIsAtBench = 'Who is at the bench?';
export const signInHere = 'Sign in';
export const noOwnerYet =
  'No owner yet. Open the link that the program printed when it started on its own machine.';
export const passwordLength = 'At least 10 characters';
export const enterAgain = 'Enter your password again';
export const enterAgainWhy =
  'This reaches beyond one job. Nobody else at this screen should do it in your name.';
export const pinOf = (name: string): string => `PIN of ${name}`;
