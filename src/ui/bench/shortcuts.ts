import { branchTrial } from '@/core/recipe/trials';
import { SPOT_LIMIT } from '@/core/steps/retouch/retouch';
import { copyText } from '../parts/copy-text';
import { lookAtSize } from './stage/Calibration';
import { look, WHOLE_PAPER } from './stage/viewport';
import { useSheet } from './shortcut-sheet-store';
import type { WorkBench } from './use-work';
import { COMPARING, flip, useLooking } from './stage/modes/mode';
import { probing } from './stage/probe/probe-store';
import { marking } from './stage/stops/marking';
import { walkStops } from './stage/stops/stop-store';
import { sweeping } from './stage/sweep/use-sweep';
import { useOverlay } from './stage/overlays/overlay';
import { takeTool, useTool } from './stage/tools/tool';
import { SECTION_NAMES, useOpen } from './ticket/open';
import { useChosen } from './trial-store';
import { say } from '@/core/words/say';

/** One key of the bench: what the sheet says of it, and what it does. */
export interface Shortcut {
  /** as the sheet shows it */
  keys: string;
  what: string;
  /** as tinykeys reads it, and what each does; none where the stage itself answers to it */
  bindings: Record<string, Press>;
  /** what letting go does, by the plain key */
  releases?: Record<string, () => void>;
}

/** @returns false where the key means nothing just now, so that the page may have it */
type Press = (bench: WorkBench) => boolean | void;

/** A trial that begins as the one on the bench, which it is compared with. */
export function branch({ work, trial, change }: WorkBench): void {
  // The change is made on a copy, so the letter is told from here.
  const next = branchTrial(structuredClone(work), trial);
  if (!next) return;
  change(say`${next.name} branched from ${trial.name}`, (copy, from) => {
    branchTrial(copy, from);
  });
  useChosen.setState({ trial: next.id, beside: [{ of: 'trial', id: trial.id }] });
}

const nextStop =
  (by: -1 | 1): Press =>
  () => {
    const inventions = useOpen.getState().section === 'enlarge' && useOverlay.getState().inventions;
    if (!inventions) walkStops(by);
    else useOverlay.setState(({ stop }) => ({ stop: (stop ?? (by < 0 ? 0 : -1)) + by }));
  };

const nextWay =
  (by: -1 | 1): Press =>
  () =>
    useLooking.setState(({ comparing }) => ({
      comparing:
        COMPARING[(COMPARING.indexOf(comparing) + by + COMPARING.length) % COMPARING.length]!,
    }));

/** Brushes and spots grow and shrink by a share of their size, and by a pixel at least. */
function sizedBy(larger: boolean): void {
  const scale = larger ? 1.15 : 1 / 1.15;
  const sized = (size: number, most: number) =>
    Math.min(most, Math.max(1, Math.round(size * scale + (larger ? 0.5 : -0.5))));
  useTool.setState(({ brush, spotRadius }) => ({
    brush: { ...brush, size: sized(brush.size, 600) },
    spotRadius: sized(spotRadius, SPOT_LIMIT),
  }));
}

/** Every figure of the open section that a press copies, with what it is of. */
function copyFigures(): boolean | void {
  const figures = [...document.querySelectorAll<HTMLElement>('.ticket .inside .copyable')];
  if (figures.length === 0) return false;
  const lines = figures.map((figure) => {
    const label = figure.closest('dd, li')?.parentElement?.querySelector('dt');
    const what = figure.closest('li')?.querySelector('.what') ?? label;
    return `${what?.textContent ?? ''}\t${figure.textContent ?? ''}`.trim();
  });
  copyText(lines.join('\n'), say`Copied: ${lines.length} figures`);
}

const toggleSheet: Press = () => useSheet.setState(({ open }) => ({ open: !open }));

/** Every key of the bench; the sheet that "?" opens is this list. */
export const SHORTCUTS: readonly Shortcut[] = [
  {
    keys: 'O (hold)',
    what: say`show the original`,
    bindings: { o: () => useLooking.setState({ holding: true }) },
    releases: { o: () => useLooking.setState({ holding: false }) },
  },
  {
    keys: 'F (hold)',
    what: say`show the picture without Finish`,
    bindings: { f: () => useLooking.setState({ unfinished: true }) },
    releases: { f: () => useLooking.setState({ unfinished: false }) },
  },
  {
    keys: 'W  Shift W',
    what: say`next way to compare, or the one before`,
    bindings: { w: nextWay(1), 'Shift+W': nextWay(-1) },
  },
  {
    keys: 'L',
    what: say`turn the divider, or what stands side by side`,
    bindings: {
      l: () =>
        useLooking.setState(({ comparing, level, stacked }) =>
          comparing === 'side by side' ? { stacked: !stacked } : { level: !level },
        ),
    },
  },
  {
    keys: 'V',
    what: say`blink: the other picture, in the same place`,
    bindings: { v: () => flip() },
  },
  {
    keys: '0',
    what: say`show the whole paper`,
    bindings: { 0: () => look(WHOLE_PAPER) },
  },
  {
    keys: '1',
    what: say`result 1:1`,
    bindings: { 1: () => look({ zoom: { of: 'result', scale: 1 } }) },
  },
  {
    keys: '4',
    what: say`original’s grid 4:1`,
    bindings: { 4: () => look({ zoom: { of: 'original', scale: 4 } }) },
  },
  {
    keys: '3  5',
    what: say`true size, as seen from the distance`,
    bindings: {
      3: () => lookAtSize({ of: 'size' }),
      5: () => lookAtSize({ of: 'distance' }),
    },
  },
  {
    keys: 'R',
    what: say`rulers`,
    bindings: { r: () => useLooking.setState(({ ruled }) => ({ ruled: !ruled })) },
  },
  { keys: '+  -', what: say`zoom (on the stage)`, bindings: {} },
  { keys: '← ↑ → ↓', what: say`move (on the stage)`, bindings: {} },
  { keys: 'B', what: say`branch this trial`, bindings: { b: (bench) => branch(bench) } },
  {
    keys: 'N  Shift N',
    what: say`next stop, or the one before: at 1:1, then on the original’s grid`,
    bindings: { n: nextStop(1), 'Shift+N': nextStop(-1) },
  },
  {
    keys: 'M',
    what: say`mark the place under the pointer, or in the middle`,
    bindings: { m: () => marking.run('pointer') },
  },
  {
    keys: 'P',
    what: say`lay a probe across an edge, or take it up (in Compare)`,
    bindings: {
      p: () => (useOpen.getState().section === 'compare' ? probing.run('pointer') : false),
    },
  },
  {
    keys: 'S',
    what: say`sweep: the next part that was not seen at 1:1`,
    bindings: { s: () => sweeping.run() },
  },
  {
    keys: 'Space (hold)',
    what: say`move the picture while painting`,
    bindings: {
      Space: () => {
        if (!useTool.getState().tool) return false;
        useTool.setState({ panning: true });
      },
    },
    releases: { ' ': () => useTool.setState({ panning: false }) },
  },
  {
    keys: ',  .',
    what: say`smaller, larger brush`,
    bindings: { ',': () => sizedBy(false), '.': () => sizedBy(true) },
  },
  {
    keys: 'T',
    what: say`brush adds, or takes away`,
    bindings: {
      t: () =>
        useTool.setState(({ brush }) => ({ brush: { ...brush, takingAway: !brush.takingAway } })),
    },
  },
  {
    keys: 'Esc',
    what: say`leave the zone or the spots`,
    bindings: {
      Escape: () => {
        takeTool(null);
        return false;
      },
    },
  },
  {
    keys: 'C',
    what: say`copy the figures of the open section`,
    bindings: { c: copyFigures },
  },
  {
    keys: 'Alt 1 … 7',
    what: say`open a section of the ticket`,
    bindings: Object.fromEntries(
      SECTION_NAMES.map((section, i): [string, Press] => [
        `Alt+Digit${i + 1}`,
        () => useOpen.setState({ section }),
      ]),
    ),
  },
  { keys: 'Ctrl Z', what: say`undo`, bindings: { '$mod+z': (bench) => bench.undo?.() } },
  {
    keys: 'Ctrl Shift Z',
    what: say`redo`,
    bindings: {
      '$mod+Shift+Z': (bench) => bench.redo?.(),
      '$mod+y': (bench) => bench.redo?.(),
    },
  },
  {
    keys: '?',
    what: say`this sheet`,
    // Whether Shift is part of it depends on the keyboard.
    bindings: { '?': toggleSheet, 'Shift+?': toggleSheet },
  },
];
