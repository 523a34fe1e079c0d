import { useEffect, useRef } from 'react';
import { SPOT_LIMIT } from '@/core/steps/retouch/retouch';
import type { WorkBench } from './use-work';
import { SECTIONS, useView } from './view-store';

/** Keys of the bench; the sheet that "?" opens is made from this list. */
export const SHORTCUTS: { keys: string; what: string }[] = [
  { keys: 'O (hold)', what: 'show the original' },
  { keys: 'W', what: 'next way to compare' },
  { keys: '0', what: 'show the whole paper' },
  { keys: '1', what: 'result 1:1' },
  { keys: '4', what: 'original’s grid 4:1' },
  { keys: '+  -', what: 'zoom' },
  { keys: 'N  Shift N', what: 'next worst place, or the one before' },
  { keys: '← ↑ → ↓', what: 'move (on the stage)' },
  { keys: 'Space (hold)', what: 'move the picture while painting' },
  { keys: ',  .', what: 'smaller, larger brush' },
  { keys: 'T', what: 'brush adds, or takes away' },
  { keys: 'Esc', what: 'leave the zone or the spots' },
  { keys: 'Alt 1 … 7', what: 'open a section of the ticket' },
  { keys: 'Ctrl Z', what: 'undo' },
  { keys: 'Ctrl Shift Z', what: 'redo' },
  { keys: '?', what: 'this sheet' },
];

const WAYS = ['wipe', 'side by side', 'result alone'] as const;

/** Whether keys belong to what is typed in. */
const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLSelectElement ||
  target instanceof HTMLTextAreaElement ||
  (target instanceof HTMLInputElement && !['range', 'radio', 'checkbox'].includes(target.type));

export function useShortcuts(bench: WorkBench): void {
  const latest = useRef(bench);
  useEffect(() => {
    latest.current = bench;
  });

  useEffect(() => {
    const down = (event: KeyboardEvent) => {
      const view = useView.getState();
      const key = event.key.toLowerCase();
      if ((event.ctrlKey || event.metaKey) && (key === 'z' || key === 'y')) {
        if (typing(event.target)) return;
        event.preventDefault();
        const back = key === 'z' && !event.shiftKey;
        (back ? latest.current.undo : latest.current.redo)?.();
        return;
      }
      if (event.altKey && /^Digit[1-7]$/.test(event.code)) {
        event.preventDefault();
        view.set({ section: SECTIONS[Number(event.code.at(-1)) - 1]! });
        return;
      }
      if (typing(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      if (key === 'o' && !event.repeat) view.set({ holding: true });
      if (key === 'w') view.set({ compare: WAYS[(WAYS.indexOf(view.compare) + 1) % WAYS.length]! });
      if (key === '0') view.set({ zoom: { of: 'fit' }, centre: { x: 0.5, y: 0.5 } });
      if (key === '1') view.set({ zoom: { of: 'result', scale: 1 } });
      if (key === '4') view.set({ zoom: { of: 'original', scale: 4 } });
      if (key === 'n')
        view.set({ stop: (view.stop ?? (event.shiftKey ? 0 : -1)) + (event.shiftKey ? -1 : 1) });
      if (key === '?') view.set({ sheet: !view.sheet });
      if (key === 'escape') view.set({ zone: null, spotting: 'off', cloneFrom: null });
      const { brush } = view;
      if (key === 't') view.set({ brush: { ...brush, takingAway: !brush.takingAway } });
      if (key === ',' || key === '.') {
        const scale = key === '.' ? 1.15 : 1 / 1.15;
        const sized = (size: number, most: number) =>
          Math.min(most, Math.max(1, Math.round(size * scale + (key === '.' ? 0.5 : -0.5))));
        view.set({
          brush: { ...brush, size: sized(brush.size, 600) },
          spotRadius: sized(view.spotRadius, SPOT_LIMIT),
        });
      }
      if (key === ' ' && (view.zone || view.spotting !== 'off')) {
        event.preventDefault();
        if (!event.repeat) view.set({ panning: true });
      }
    };
    const up = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() === 'o') useView.getState().set({ holding: false });
      if (event.key === ' ') useView.getState().set({ panning: false });
    };
    const leave = () => useView.getState().set({ holding: false, panning: false });
    addEventListener('keydown', down);
    addEventListener('keyup', up);
    addEventListener('blur', leave);
    return () => {
      removeEventListener('keydown', down);
      removeEventListener('keyup', up);
      removeEventListener('blur', leave);
    };
  }, []);
}
