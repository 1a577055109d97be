import type { SchoolOf } from '@/api/types';

type School = SchoolOf['school'];

/** The language of lists, numbers and dates: the one place that names it. */
export const LOCALE = 'en-GB';

const lists = new Intl.ListFormat(LOCALE);
const counts = new Intl.NumberFormat(LOCALE);

/** `1, 2 and 4`. */
export const list = (items: (string | number)[]) => lists.format(items.map(String));

/** A whole number with its thousands apart: `10,032`. */
export const count = (value: number) => counts.format(Math.round(value));

/** What one method says of a set: whom it fails, whom it looks at, or why it says nothing. */
export function methodSays(school: School, silent = 'no result'): string {
  const parts = [
    school.condemns.length ? `fails ${list(school.condemns)}` : '',
    school.looks_at.length ? `looks at ${list(school.looks_at)}` : '',
  ].filter(Boolean);
  return parts.join(', ') || (school.silent ? silent : 'fails none');
}
