/** What this part says in sentences. */
export const noAnswerCobaltineYour = 'No answer from Cobaltine. Your entry is kept; try again.';
