import { differenceInCalendarDays, parseISO } from 'date-fns';
import { say } from '@/core/words/say';

/** Days until a day, by the calendar; below 0 it is over. */
export const daysLeft = (due: string, now: Date): number =>
  differenceInCalendarDays(parseISO(due), now);

export function dueWords(days: number): string {
  if (days === 0) return say`today`;
  if (days === 1) return say`tomorrow`;
  if (days > 0) return say`in ${days} days`;
  return days === -1 ? say`1 day late` : say`${-days} days late`;
}
