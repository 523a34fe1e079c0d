import type { Maps } from '@/core/inspect/findings';
import type { Rect } from '@/core/frame/framing';
import { useMaps } from '../../../data/queries';
import { CellMap } from './CellMap';
import type { MapName } from './overlay';
import { say } from '@/core/words/say';

interface Props {
  digest: string;
  page: number;
  map: MapName;
  /** where the whole original lies on the stage, in CSS pixels */
  place: Rect;
  /** where the paper does */
  paper: Rect;
}

/** Words at the ends of each map's scale. */
const WORDS: Record<MapName, { title: string; least: string; most: string }> = {
  sharpness: { title: say`Detail`, least: say`none`, most: say`in every pixel` },
  blocks: { title: say`Blocking`, least: say`none`, most: say`all there is` },
};

/** Findings part by part, over the picture. */
export function MapOverlay({ digest, page, map, place, paper }: Props) {
  const { data: maps } = useMaps(digest, page, true);
  if (!maps) return null;
  const { title, least, most } = WORDS[map];
  // Detail is bad where there is none of it.
  const words = map === 'blocks' ? { title, least, most } : { title, least: most, most: least };
  const { columns, rows } = maps;
  return <CellMap {...{ columns, rows, place, paper, words }} shares={badness(maps, map)} />;
}

/** 0 nothing wrong to 1 as bad as can be; null where a part says nothing. */
const badness = (maps: Maps, map: MapName): (number | null)[] =>
  map === 'blocks'
    ? maps.blocks.map((strength) => strength / 100)
    : maps.sharpness.map((percent) => (percent === null ? null : 1 - percent / 100));
