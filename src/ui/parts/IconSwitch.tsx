import type { LucideIcon } from 'lucide-react';

interface Props {
  /** what a press does */
  label: string;
  Icon: LucideIcon;
  onPress(): void;
}

/** A small button that changes over to another state. */
export const IconSwitch = ({ label, Icon, onPress }: Props) => (
  <button
    type="button"
    className="btn btn-quiet btn-sm icon-switch"
    aria-label={label}
    title={label}
    onClick={onPress}
  >
    <Icon size={15} aria-hidden />
  </button>
);
