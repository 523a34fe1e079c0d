import type { ReactNode } from 'react';
import { Dropdown } from 'react-bootstrap';

/** Where a list would be cut off by what scrolls around it, it opens where there is room. */
const POPPER = { strategy: 'fixed' as const };

/** What a Dropdown opens. */
export const Menu = ({ children }: { children: ReactNode }) => (
  <Dropdown.Menu popperConfig={POPPER}>{children}</Dropdown.Menu>
);
