import { say } from '@/core/words/say';
import { copyText } from './copy-text';

/** A figure that a press copies. */
export const Copyable = ({ children: text }: { children: string }) => (
  <button
    type="button"
    className="copyable figure"
    // A stop of the Tab key each would be in the way; C copies them all.
    tabIndex={-1}
    title={say`Press to copy; C copies all of them`}
    onClick={() => copyText(text, say`Copied: ${text}`)}
  >
    {text}
  </button>
);
