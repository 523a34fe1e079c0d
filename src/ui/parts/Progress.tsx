interface Props {
  label: string;
  /** what is done, 0–1 */
  share: number;
  className?: string;
}

/** How far something is; Bootstrap's own markup, so that it has a name for whoever listens. */
export function Progress({ label, share, className = '' }: Props) {
  const percent = 100 * Math.min(1, Math.max(0, share));
  return (
    <div
      className={`progress ${className}`}
      role="progressbar"
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(percent)}
    >
      <div className="progress-bar" style={{ width: `${percent}%` }} />
    </div>
  );
}
