import { v7 } from 'uuid';

/** An id made here, so that sending the same thing twice keeps it once. */
export function newId(): string {
  return v7();
}
