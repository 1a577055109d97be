export const goesOnAs = (name: string): string => `is now ${name}`;
export const leftOn = (day: string): string => `retired ${day}`;
