import { say } from '@/core/words/say';
import { tell } from '../data/notices';

/** Copies a text, and says so. @param words what is said then */
export function copyText(text: string, words: string): void {
  copied(text).then(
    (done) =>
      done ? tell(words, 'good') : tell(say`The browser did not let this be copied.`, 'trouble'),
    () => tell(say`The browser did not let this be copied.`, 'trouble'),
  );
}

/** A page that comes by plain HTTP from another machine has no clipboard of its own: then the old way is gone. */
async function copied(text: string): Promise<boolean> {
  const clipboard = navigator.clipboard as Clipboard | undefined;
  if (clipboard) {
    await clipboard.writeText(text);
    return true;
  }
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
  return done;
}
