import { tell } from '../data/notices';

/** A figure that a press copies. */
export const Copyable = ({ children: text }: { children: string }) => (
  <button
    type="button"
    className="copyable figure"
    title="Press to copy"
    onClick={() => {
      navigator.clipboard.writeText(text).then(
        () => tell(`Copied: ${text}`, 'good'),
        () => tell('The browser did not let this be copied.', 'trouble'),
      );
    }}
  >
    {text}
  </button>
);
