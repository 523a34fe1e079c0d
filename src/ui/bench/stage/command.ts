import { useEffect } from 'react';

/** Something that keys and buttons ask of the stage, which alone knows what shows and how close. */
export interface StageCommand<Asked extends unknown[]> {
  /** does it, as long as there is a stage */
  run(...asked: Asked): void;
  /** in the stage: how it is done as things stand */
  useAs(act: (...asked: Asked) => void): void;
}

export function stageCommand<Asked extends unknown[]>(): StageCommand<Asked> {
  let now: ((...asked: Asked) => void) | null = null;
  return {
    run: (...asked) => now?.(...asked),
    useAs(act) {
      useEffect(() => {
        now = act;
        return () => {
          if (now === act) now = null;
        };
      });
    },
  };
}
