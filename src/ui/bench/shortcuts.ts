import { branchTrial } from '@/core/recipe/trials';
import { SPOT_LIMIT } from '@/core/steps/retouch/retouch';
import { look, WHOLE_PAPER } from './stage/viewport';
import type { WorkBench } from './use-work';
import { SECTIONS, useView, type Compare, type View } from './view-store';

/** One key of the bench: what the sheet says of it, and what it does. */
export interface Shortcut {
  /** as the sheet shows it */
  keys: string;
  what: string;
  /** as tinykeys reads it, and what each does; none where the stage itself answers to it */
  bindings: Record<string, Press>;
  /** what letting go does, by the plain key */
  releases?: Record<string, (view: View) => void>;
}

/** @returns false where the key means nothing just now, so that the page may have it */
type Press = (view: View, bench: WorkBench) => boolean | void;

const WAYS: readonly Compare[] = ['wipe', 'side by side', 'result alone'];

/** A trial that begins as the one on the bench, which it is compared with. */
export function branch({ work, trial, change }: WorkBench): void {
  // The change is made on a copy, so the letter is told from here.
  const next = branchTrial(structuredClone(work), trial);
  if (!next) return;
  change(`${next.name} branched from ${trial.name}`, (copy, from) => {
    branchTrial(copy, from);
  });
  useView.getState().set({ trial: next.id, against: trial.id });
}

const nextStop =
  (by: -1 | 1): Press =>
  (view) =>
    view.set({ stop: (view.stop ?? (by < 0 ? 0 : -1)) + by });

/** Brushes and spots grow and shrink by a share of their size, and by a pixel at least. */
function sizedBy(view: View, larger: boolean): void {
  const scale = larger ? 1.15 : 1 / 1.15;
  const sized = (size: number, most: number) =>
    Math.min(most, Math.max(1, Math.round(size * scale + (larger ? 0.5 : -0.5))));
  view.set({
    brush: { ...view.brush, size: sized(view.brush.size, 600) },
    spotRadius: sized(view.spotRadius, SPOT_LIMIT),
  });
}

const toggleSheet: Press = (view) => view.set({ sheet: !view.sheet });

/** Every key of the bench; the sheet that "?" opens is this list. */
export const SHORTCUTS: readonly Shortcut[] = [
  {
    keys: 'O (hold)',
    what: 'show the original',
    bindings: { o: (view) => view.set({ holding: true }) },
    releases: { o: (view) => view.set({ holding: false }) },
  },
  {
    keys: 'W',
    what: 'next way to compare',
    bindings: {
      w: (view) => view.set({ compare: WAYS[(WAYS.indexOf(view.compare) + 1) % WAYS.length]! }),
    },
  },
  {
    keys: '0',
    what: 'show the whole paper',
    bindings: { 0: () => look(WHOLE_PAPER) },
  },
  {
    keys: '1',
    what: 'result 1:1',
    bindings: { 1: () => look({ zoom: { of: 'result', scale: 1 } }) },
  },
  {
    keys: '4',
    what: 'original’s grid 4:1',
    bindings: { 4: () => look({ zoom: { of: 'original', scale: 4 } }) },
  },
  { keys: '+  -', what: 'zoom (on the stage)', bindings: {} },
  { keys: '← ↑ → ↓', what: 'move (on the stage)', bindings: {} },
  { keys: 'B', what: 'branch this trial', bindings: { b: (_, bench) => branch(bench) } },
  {
    keys: 'N  Shift N',
    what: 'next worst place, or the one before',
    bindings: { n: nextStop(1), 'Shift+N': nextStop(-1) },
  },
  {
    keys: 'Space (hold)',
    what: 'move the picture while painting',
    bindings: {
      Space: (view) => {
        if (!view.zone && view.spotting === 'off') return false;
        view.set({ panning: true });
      },
    },
    releases: { ' ': (view) => view.set({ panning: false }) },
  },
  {
    keys: ',  .',
    what: 'smaller, larger brush',
    bindings: { ',': (view) => sizedBy(view, false), '.': (view) => sizedBy(view, true) },
  },
  {
    keys: 'T',
    what: 'brush adds, or takes away',
    bindings: {
      t: (view) => view.set({ brush: { ...view.brush, takingAway: !view.brush.takingAway } }),
    },
  },
  {
    keys: 'Esc',
    what: 'leave the zone or the spots',
    bindings: {
      Escape: (view) => {
        view.set({ zone: null, spotting: 'off', cloneFrom: null });
        return false;
      },
    },
  },
  {
    keys: 'Alt 1 … 7',
    what: 'open a section of the ticket',
    bindings: Object.fromEntries(
      SECTIONS.map((section, i): [string, Press] => [
        `Alt+Digit${i + 1}`,
        (view) => view.set({ section }),
      ]),
    ),
  },
  { keys: 'Ctrl Z', what: 'undo', bindings: { '$mod+z': (_, bench) => bench.undo?.() } },
  {
    keys: 'Ctrl Shift Z',
    what: 'redo',
    bindings: {
      '$mod+Shift+Z': (_, bench) => bench.redo?.(),
      '$mod+y': (_, bench) => bench.redo?.(),
    },
  },
  {
    keys: '?',
    what: 'this sheet',
    // Whether Shift is part of it depends on the keyboard.
    bindings: { '?': toggleSheet, 'Shift+?': toggleSheet },
  },
];
