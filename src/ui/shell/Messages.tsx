import { ChevronDown, X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useNotices, type Notice } from '../data/notices';
import { say } from '@/core/words/say';

/** How long it is said that something was done, and longer where something can be done about it, in milliseconds. */
const SHOWN_MS = { plain: 6000, acting: 15_000 };

const TONES = { good: say`Done. `, trouble: say`Trouble. `, note: '' } as const;

/**
 * What happened, in the bar that every page stands under: it lies over nothing that is pressed. The newest is seen; the
 * others hang below it when they are asked for.
 */
export function Messages() {
  const { list } = useNotices();
  const [all, setAll] = useState(false);
  const newest = list.at(-1);
  const more = list.length - 1;
  if (all && more < 1) setAll(false);
  return (
    <div className="notices" aria-live="polite">
      {newest && <Message key={newest.id} notice={newest} />}
      {more > 0 && (
        <button
          type="button"
          className="more-notices"
          aria-expanded={all}
          onClick={() => setAll(!all)}
        >
          {say`${more} more`} <ChevronDown size={13} aria-hidden />
        </button>
      )}
      <div className="older-notices" hidden={!all}>
        {list
          .slice(0, -1)
          .reverse()
          .map((notice) => (
            <Message key={notice.id} notice={notice} />
          ))}
      </div>
    </div>
  );
}

/** One message; trouble stays until it is put away, and so does what somebody points at. */
function Message({ notice: { id, text, tone, action } }: { notice: Notice }) {
  const { dismiss } = useNotices();
  const [held, setHeld] = useState(false);
  useEffect(() => {
    if (tone === 'trouble' || held) return;
    const timer = setTimeout(() => dismiss(id), SHOWN_MS[action ? 'acting' : 'plain']);
    return () => clearTimeout(timer);
  }, [id, tone, action, held, dismiss]);
  return (
    <div
      className={`notice ${tone}`}
      onPointerEnter={() => setHeld(true)}
      onPointerLeave={() => setHeld(false)}
      onFocus={() => setHeld(true)}
      onBlur={() => setHeld(false)}
    >
      <span className="words" title={text}>
        <b className={tone}>{TONES[tone]}</b>
        {text}
      </span>
      {action && (
        <button
          type="button"
          className="text-button"
          onClick={() => {
            action.act();
            dismiss(id);
          }}
        >
          {action.words}
        </button>
      )}
      <button
        type="button"
        className="put-away"
        aria-label={say`Put away`}
        title={say`Put away`}
        onClick={() => dismiss(id)}
      >
        <X size={15} />
      </button>
    </div>
  );
}
