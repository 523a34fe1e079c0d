import type { ReactNode } from 'react';

interface Props {
  title: string;
  /** what it comes to, read while it is closed */
  line?: string;
  children: ReactNode;
}

/** A part of a section that is opened when it is wanted. */
export const Fold = ({ title, line, children }: Props) => (
  <details className="fold">
    <summary>
      <span>{title}</span>
      {line && <span className="figure">{line}</span>}
    </summary>
    <div className="folded">{children}</div>
  </details>
);
