import type { Rect } from '../frame/framing';
import { formatNumber } from '../measure/format';
import { say } from '../words/say';

/** What a proof is printed on: a sheet, or a strip across a roll, whose length follows; millimetres. */
export type ProofPaper =
  { kind: 'sheet'; width: number; height: number } | { kind: 'strip'; width: number };

/** Millimetres: about all, between pictures, of the heading, of a picture's words, of a line of settings, of the foot. */
const MARGIN = 8;
const GAP = 4;
const HEADING = 12;
const WORDS = 4;
const LINE = 3.2;
const FOOT = 27;
/** Pictures of a strip are so large; on a sheet as large as there is room, and no smaller than the least. */
const STRIP_PICTURE = { width: 80, height: 60 };
const LEAST = 20;
/** No higher than this for their width, or higher: a place is seen with its surroundings. */
const TALLEST = 1.1;
/** The most places beside each other on a sheet. */
const ACROSS = 4;
/** Lines of settings that are shown of a trial. */
export const MOST_SETTINGS = 7;
/** The strip has room for its foot. */
const NARROWEST = 180;
/** A strip is no longer than this. */
const LONGEST = 3000;

/** Where all that a proof shows lies, in millimetres from its upper left corner; or in words why it has no room. */
export type ProofSheet =
  | {
      ok: true;
      width: number;
      height: number;
      heading: Rect;
      /** a picture of each place from each trial, and where it is named */
      pictures: { stop: number; trial: number; at: Rect; words: Rect }[];
      /** a trial's settings, line by line */
      settings: { trial: number; at: Rect }[];
      foot: Rect;
    }
  | { ok: false; reason: string };

/** Lays out pictures of places, a column a trial; on a strip all of a place beside each other, as many as it is wide. */
export function layOutProof(
  paper: ProofPaper,
  { stops, trials, settings }: { stops: number; trials: number; settings: number },
): ProofSheet {
  const lines = Math.min(settings, MOST_SETTINGS);
  return paper.kind === 'sheet'
    ? onSheet(paper, stops, trials, lines)
    : onStrip(paper.width, stops, trials, lines);
}

function onSheet(
  { width, height }: { width: number; height: number },
  stops: number,
  trials: number,
  lines: number,
): ProofSheet {
  const top = MARGIN + HEADING;
  const settings = lines * LINE + (lines > 0 ? GAP : 0);
  const room = height - top - MARGIN - FOOT - settings;
  // As many places beside each other as makes them largest.
  const ways = Array.from({ length: ACROSS }, (_, i) => {
    const columns = (i + 1) * trials;
    const wide = (width - 2 * MARGIN - (columns - 1) * GAP) / columns;
    const high = Math.min(wide * TALLEST, room / Math.ceil(stops / (i + 1)) - WORDS - GAP);
    return { across: i + 1, wide, high, least: Math.min(wide, high) };
  });
  const { across, wide, high, least } = ways.reduce((a, b) => (b.least > a.least ? b : a));
  if (least < LEAST) {
    return {
      ok: false,
      reason: say`${stops} places of ${trials} trials have no room on ${formatNumber(width)} × ${formatNumber(height)} mm: each would be smaller than ${LEAST} mm. Fewer places, or a larger sheet.`,
    };
  }
  const column = (stop: number, trial: number) =>
    MARGIN + ((stop % across) * trials + trial) * (wide + GAP);
  const row = (stop: number) => top + Math.floor(stop / across) * (high + WORDS + GAP);
  return {
    ...{ ok: true, width, height },
    heading: { x: MARGIN, y: MARGIN, width: width - 2 * MARGIN, height: HEADING },
    pictures: everyPicture(stops, trials, (stop, trial) =>
      picture({ x: column(stop, trial), y: row(stop), width: wide, height: high }),
    ),
    settings: settingsOf(trials, lines, (trial) => ({
      ...{ x: column(0, trial), y: row(stops + across - 1), width: wide, height: lines * LINE },
    })),
    foot: footOf(width, height),
  };
}

function onStrip(width: number, stops: number, trials: number, lines: number): ProofSheet {
  const { width: wide, height: high } = STRIP_PICTURE;
  const group = trials * wide + (trials - 1) * GAP;
  const across = Math.floor((width - 2 * MARGIN + 2 * GAP) / (group + 2 * GAP));
  if (across < 1 || width < NARROWEST) {
    const least = Math.max(NARROWEST, group + 2 * MARGIN);
    return {
      ok: false,
      reason: say`A strip of ${formatNumber(width)} mm is too narrow for ${trials} trials beside each other: it has to be ${formatNumber(least)} mm wide.`,
    };
  }
  const rows = Math.ceil(stops / across);
  const top = MARGIN + HEADING;
  const settings = lines * LINE + (lines > 0 ? GAP : 0);
  const below = top + rows * (high + WORDS + GAP);
  const height = below + settings + FOOT + MARGIN;
  if (height > LONGEST) {
    return {
      ok: false,
      reason: say`The strip would be ${formatNumber(height / 10, 0)} cm long. Fewer places, or a wider strip.`,
    };
  }
  const x = (stop: number, trial: number) =>
    MARGIN + (stop % across) * (group + 2 * GAP) + trial * (wide + GAP);
  return {
    ...{ ok: true, width, height },
    heading: { x: MARGIN, y: MARGIN, width: width - 2 * MARGIN, height: HEADING },
    pictures: everyPicture(stops, trials, (stop, trial) => {
      const y = top + Math.floor(stop / across) * (high + WORDS + GAP);
      return picture({ x: x(stop, trial), y, width: wide, height: high });
    }),
    settings: settingsOf(trials, lines, (trial) => ({
      ...{ x: x(0, trial), y: below, width: wide, height: lines * LINE },
    })),
    foot: footOf(width, height),
  };
}

const picture = (at: Rect) => ({
  at,
  words: { x: at.x, y: at.y + at.height + 0.6, width: at.width, height: WORDS },
});

const everyPicture = <T>(
  stops: number,
  trials: number,
  place: (stop: number, trial: number) => T,
): (T & { stop: number; trial: number })[] =>
  Array.from({ length: stops * trials }, (_, i) => {
    const [stop, trial] = [Math.floor(i / trials), i % trials];
    return { stop, trial, ...place(stop, trial) };
  });

const settingsOf = (trials: number, lines: number, at: (trial: number) => Rect) =>
  lines === 0 ? [] : Array.from({ length: trials }, (_, trial) => ({ trial, at: at(trial) }));

const footOf = (width: number, height: number): Rect => ({
  ...{ x: MARGIN, y: height - MARGIN - FOOT, width: width - 2 * MARGIN, height: FOOT },
});

/** Height of a line of settings, in millimetres. */
export const SETTING_LINE = LINE;
