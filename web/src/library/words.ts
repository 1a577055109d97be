/** What this part says in sentences. */
export const tighteningNMSuch = 'Tightening, N·m and °, such as 8; 12; 90°';
