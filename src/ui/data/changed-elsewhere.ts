import { authorWords } from '@/core/shop/author';
import type { Piece } from '@/core/shop/job';
import { author } from './author';
import { tell } from './notices';
import type { Dropped } from './piece-queue';
import { say } from '@/core/words/say';

/**
 * Says that a picture was changed elsewhere, where a person should know: another person did it, or something of one's own
 * was not done because of it.
 */
export function tellChangedElsewhere(before: Piece, now: Piece, dropped: readonly Dropped[]): void {
  const own = now.author?.browser === author().browser;
  if (own && dropped.length === 0) return;
  const who = own ? say`You, in another tab,` : authorWords(now.author);
  const label = now.history.find(({ id }) => id === now.current)?.label ?? '';
  const isNew = now.current > Math.max(...before.history.map(({ id }) => id));
  const theirs = isNew
    ? say`${who} changed this picture: ${label}.`
    : say`${who} went to “${label}”.`;
  if (dropped.length === 0) {
    tell(theirs, 'note');
    return;
  }
  const again = dropped.flatMap((one) => one.again ?? []);
  tell(
    say`${theirs} Not done of yours: ${dropped.map((one) => one.label).join(', ')}.`,
    'trouble',
    again.length > 0
      ? { words: say`Apply it again`, act: () => again.forEach((act) => act()) }
      : undefined,
  );
}
