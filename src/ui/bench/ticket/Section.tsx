import { useEffect, useRef, type ReactNode } from 'react';
import { useOpen, type SectionName } from './open';

interface Props {
  name: SectionName;
  title: string;
  /** its state in one line of figures, read while it is closed */
  line: string;
  children: ReactNode;
}

/** One section of the ticket; one is open at a time. */
export function Section({ name, title, line, children }: Props) {
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
          <span className="state-line figure">{line}</span>
        </button>
      </h2>
      {open && (
        <div className="inside" id={`section-${name}`} role="region" aria-label={title}>
          {children}
        </div>
      )}
    </div>
  );
}
