import type { ReactNode } from 'react';

interface Props {
  title: string;
  /** what it comes to, read while it is closed */
  line?: string;
  /** whether it is open at first */
  open?: boolean;
  onOpen?(): void;
  children: ReactNode;
}

/** A part of a section that is opened when it is wanted. */
export const Fold = ({ title, line, open = false, onOpen, children }: Props) => (
  <details
    className="fold"
    open={open}
    onToggle={({ currentTarget }) => currentTarget.open && onOpen?.()}
  >
    <summary>
      <span>{title}</span>
      {line && <span>{line}</span>}
    </summary>
    <div className="folded">{children}</div>
  </details>
);
