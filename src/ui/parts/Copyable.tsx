import { tell } from '../data/notices';
import { say } from '@/core/words/say';

/** Copies a text, and says so. @param what it is called then */
export function copyText(text: string, what = text): void {
  navigator.clipboard.writeText(text).then(
    () => tell(`Copied: ${what}`, 'good'),
    () => tell(say`The browser did not let this be copied.`, 'trouble'),
  );
}

/** A figure that a press copies. */
export const Copyable = ({ children: text }: { children: string }) => (
  <button
    type="button"
    className="copyable figure"
    // A stop of the Tab key each would be in the way; C copies them all.
    tabIndex={-1}
    title={say`Press to copy; C copies all of them`}
    onClick={() => copyText(text)}
  >
    {text}
  </button>
);
