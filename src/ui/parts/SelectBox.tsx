/** Takes a row of a table into what the next act is for. Keys do that on the row itself. */
export const SelectBox = ({
  label,
  on,
  onChange,
}: {
  label: string;
  on: boolean;
  onChange(on: boolean): void;
}) => (
  <label className="select-box" onClick={(event) => event.stopPropagation()}>
    <input
      type="checkbox"
      className="form-check-input"
      tabIndex={-1}
      aria-label={label}
      checked={on}
      onChange={() => onChange(!on)}
    />
  </label>
);
