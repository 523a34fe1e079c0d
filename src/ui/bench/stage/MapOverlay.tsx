import type { Maps } from '@/core/inspect/findings';
import type { Rect } from '@/core/frame/framing';
import { useMaps } from '../../data/queries';
import type { MapName } from '../view-store';

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
  sharpness: { title: 'Detail', least: 'none', most: 'in every pixel' },
  blocks: { title: 'Blocks', least: 'none', most: 'all there is' },
};

/** Findings part by part, over the picture: darker veils where more is wrong. */
export function MapOverlay({ digest, page, map, place, paper }: Props) {
  const { data: maps } = useMaps(digest, page, true);
  if (!maps) return null;
  return (
    <>
      <div
        className="map-overlay"
        aria-hidden
        style={{ left: paper.x, top: paper.y, width: paper.width, height: paper.height }}
      >
        <svg
          viewBox={`0 0 ${maps.columns} ${maps.rows}`}
          preserveAspectRatio="none"
          style={{
            left: place.x - paper.x,
            top: place.y - paper.y,
            width: place.width,
            height: place.height,
          }}
        >
          {badness(maps, map).map((bad, i) => (
            <rect
              key={i}
              x={i % maps.columns}
              y={Math.floor(i / maps.columns)}
              width={1}
              height={1}
              fill={bad === null ? 'none' : 'var(--madder)'}
              fillOpacity={bad === null ? 0 : 0.04 + 0.52 * bad}
            />
          ))}
        </svg>
      </div>
      <p className="map-scale">
        <b>{WORDS[map].title}</b>
        <span>{WORDS[map][map === 'blocks' ? 'least' : 'most']}</span>
        <i />
        <span>{WORDS[map][map === 'blocks' ? 'most' : 'least']}</span>
      </p>
    </>
  );
}

/** 0 nothing wrong to 1 as bad as can be; null where a part says nothing. */
const badness = (maps: Maps, map: MapName): (number | null)[] =>
  map === 'blocks'
    ? maps.blocks.map((strength) => strength / 100)
    : maps.sharpness.map((percent) => (percent === null ? null : 1 - percent / 100));
