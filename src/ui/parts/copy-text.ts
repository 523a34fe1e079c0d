import { say } from '@/core/words/say';
import { tell } from '../data/notices';

/** Copies a text, and says so. @param words what is said then */
export function copyText(text: string, words: string): void {
  copied(text).then(
    () => tell(words, 'good'),
    () => tell(say`The browser did not let this be copied.`, 'trouble'),
  );
}

/** A page that comes by plain HTTP from another machine has no clipboard of its own: then the old way is gone. */
async function copied(text: string): Promise<void> {
  const clipboard = navigator.clipboard as Clipboard | undefined;
  if (clipboard) return clipboard.writeText(text);
  const before = document.activeElement;
  const field = document.createElement('textarea');
  field.value = text;
  field.style.position = 'fixed';
  field.style.opacity = '0';
  document.body.append(field);
  field.select();
  const done = document.execCommand('copy');
  field.remove();
  if (before instanceof HTMLElement) before.focus();
  if (!done) throw new Error('nothing was copied');
}
