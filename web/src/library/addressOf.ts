import type { LibraryLine } from '@/api/types';

/** Where a line of the library is opened. */
export const addressOf = (line: LibraryLine) =>
  line.kind === 'family' || line.kind === 'limit'
    ? `/library/families/${line.id}`
    : `/library/items/${line.id}`;
