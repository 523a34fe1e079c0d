import { useRef } from 'react';
import { say } from '@/core/words/say';

/** Asks for all files of a folder, those in folders within as well; the browser names none of its paths. */
export function useFolderChoice(onChoose: (files: File[]) => void) {
  const input = useRef<HTMLInputElement>(null);
  return {
    open: () => input.current?.click(),
    input: (
      <input
        ref={input}
        type="file"
        hidden
        multiple
        aria-label={say`A folder of pictures`}
        {...{ webkitdirectory: '' }}
        onChange={({ target }) => {
          const files = [...(target.files ?? [])].filter(({ name }) => !name.startsWith('.'));
          target.value = '';
          onChoose(files);
        }}
      />
    ),
  };
}
