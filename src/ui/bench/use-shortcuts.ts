import { useEffect, useRef } from 'react';
import { tinykeys } from 'tinykeys';
import { SHORTCUTS } from './shortcuts';
import type { WorkBench } from './use-work';

/** Whether keys belong to what is typed in. */
const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLSelectElement ||
  target instanceof HTMLTextAreaElement ||
  (target instanceof HTMLInputElement && !['range', 'radio', 'checkbox'].includes(target.type));

/** Binds the keys of the bench for as long as it is open. */
export function useShortcuts(bench: WorkBench): void {
  const latest = useRef(bench);
  useEffect(() => {
    latest.current = bench;
  });

  useEffect(() => {
    const bindings = SHORTCUTS.flatMap((shortcut) => Object.entries(shortcut.bindings)).map(
      ([keys, press]) => [
        keys,
        (event: KeyboardEvent) => {
          if (typing(event.target)) return;
          if (event.repeat && SHORTCUTS.some(({ releases }) => releases?.[event.key])) return;
          if (press(latest.current) !== false) event.preventDefault();
        },
      ],
    );
    const unbind = tinykeys(window, Object.fromEntries(bindings));
    const releases = new Map(SHORTCUTS.flatMap(({ releases: all }) => Object.entries(all ?? {})));
    const up = (event: KeyboardEvent) => releases.get(event.key.toLowerCase())?.();
    // Whoever leaves the window lets go of all keys.
    const leave = () => releases.forEach((release) => release());
    addEventListener('keyup', up);
    addEventListener('blur', leave);
    return () => {
      unbind();
      removeEventListener('keyup', up);
      removeEventListener('blur', leave);
    };
  }, []);
}
