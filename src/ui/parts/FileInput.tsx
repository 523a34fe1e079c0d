import type { RefObject } from 'react';

interface Props {
  /** what asks for a file clicks it */
  input: RefObject<HTMLInputElement | null>;
  label: string;
  accept?: string;
  onChoose(file: File): void;
}

/** Asks for one file, out of sight; the same one can be chosen again. */
export const FileInput = ({ input, label, accept, onChoose }: Props) => (
  <input
    ref={input}
    type="file"
    hidden
    accept={accept}
    aria-label={label}
    onChange={({ target }) => {
      const [file] = target.files ?? [];
      target.value = '';
      if (file) onChoose(file);
    }}
  />
);
