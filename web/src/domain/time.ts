import { LOCALE } from '@/domain/language';

/** Seconds as minutes and seconds: `1:56`. */
export function clock(seconds: number): string {
  const whole = Math.max(0, Math.ceil(seconds));
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}

/** A moment as the workshop writes it: day and time. */
export function moment(iso: string): string {
  return new Date(iso).toLocaleString(LOCALE, {
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
  });
}

/** The day of a moment. */
export function day(iso: string): string {
  return new Date(iso).toLocaleDateString(LOCALE, { day: 'numeric', month: 'short', year: 'numeric' });
}

const DAY_MS = 86_400_000;

/** How long a job is here: `today`, `12 days`. */
export function age(iso: string, now = Date.now()): string {
  const days = Math.floor((now - new Date(iso).getTime()) / DAY_MS);
  return days < 1 ? 'booked today' : days === 1 ? 'booked yesterday' : `booked ${days} days ago`;
}

/** The day that was promised, and whether it has passed. */
export function promised(date: string, now = Date.now()): { says: string; late: boolean } {
  const end = new Date(`${date}T23:59:59`);
  const left = Math.floor((end.getTime() - now) / DAY_MS);
  const on = end.toLocaleDateString(LOCALE, { day: 'numeric', month: 'short' });
  if (left < 0) return { says: `late: promised ${on}`, late: true };
  return { says: left === 0 ? 'promised for today' : `promised ${on}`, late: false };
}
