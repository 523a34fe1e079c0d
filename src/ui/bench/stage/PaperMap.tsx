import type { Size } from '@/core/raster/region';
import type { SettledRecipe } from '@/core/treatment/recipe';
import { thumbnailOf } from '../../data/api';
import { useView } from '../view-store';
import { sourceOf } from './layers';

interface Props {
  digest: string;
  original: Size;
  recipe: SettledRecipe;
  /** how much of the paper's width and height the stage shows */
  share: { x: number; y: number };
}

const WIDEST = 132;
const HIGHEST = 96;

/** The whole paper, small, with a frame about what the stage shows; a press goes there. */
export function PaperMap({ digest, original, recipe, share }: Props) {
  const { centre, set } = useView();
  const { width: paperWidth, height: paperHeight } = recipe.target;
  const scale = Math.min(WIDEST / paperWidth, HIGHEST / paperHeight);
  const width = paperWidth * scale;
  const height = paperHeight * scale;
  const source = sourceOf(recipe);
  const percent = (value: number) => `${value * 100}%`;
  return (
    <div
      className="map"
      style={{ width, height }}
      onPointerDown={(event) => {
        event.stopPropagation();
        const box = event.currentTarget.getBoundingClientRect();
        set({
          centre: {
            x: (event.clientX - box.left) / box.width,
            y: (event.clientY - box.top) / box.height,
          },
        });
      }}
    >
      <img
        src={thumbnailOf(digest)}
        alt=""
        draggable={false}
        style={{
          width: percent(original.width / source.width),
          height: percent(original.height / source.height),
          left: percent(-source.x / source.width),
          top: percent(-source.y / source.height),
        }}
      />
      <i
        style={{
          left: percent(centre.x - share.x / 2),
          top: percent(centre.y - share.y / 2),
          width: percent(share.x),
          height: percent(share.y),
        }}
      />
    </div>
  );
}
