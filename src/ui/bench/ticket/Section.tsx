import { Info } from 'lucide-react';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import type { WorkBench } from '../use-work';
import { useOpen, type SectionName } from './open';
import { whyOf, type Why } from './why';
import { say } from '@/core/words/say';

interface Props {
  bench: WorkBench;
  name: SectionName;
  title: string;
  /** its state in one line of figures, read while it is closed */
  line: string;
  children: ReactNode;
}

/** One section of the ticket; one is open at a time. */
export function Section({ bench, name, title, line, children }: Props) {
  const [asked, setAsked] = useState(false);
  const open = useOpen((state) => state.section === name);
  const heading = useRef<HTMLHeadingElement>(null);
  // The section before it may have been scrolled far down.
  useEffect(() => {
    if (open) heading.current?.scrollIntoView({ block: 'nearest' });
  }, [open]);
  return (
    <div className={`section ${open ? 'open' : ''}`}>
      <h2 ref={heading}>
        <button
          type="button"
          aria-expanded={open}
          aria-controls={`section-${name}`}
          onClick={() => useOpen.setState({ section: open ? null : name })}
        >
          <span className="name">{title}</span>
          <span className="state-line">{line}</span>
        </button>
        {open && (
          <button
            type="button"
            className="why-button"
            aria-label={say`Why ${title}?`}
            title={say`Why ${title}?`}
            aria-expanded={asked}
            onClick={() => setAsked(!asked)}
          >
            <Info size={15} aria-hidden />
          </button>
        )}
      </h2>
      {open && (
        <div className="inside" id={`section-${name}`} role="region" aria-label={title}>
          {asked && <WhyWords {...whyOf(name, bench)} />}
          {children}
        </div>
      )}
    </div>
  );
}

const WhyWords = ({ purpose, leave, here }: Why) => (
  <div className="why" role="note">
    <p>{purpose}</p>
    <p>{leave}</p>
    {here && (
      <p>
        <b>{say`On this picture:`}</b> {here}
      </p>
    )}
  </div>
);
