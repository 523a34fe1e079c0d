import { Crop, RotateCcw, RotateCw } from 'lucide-react';
import { Button } from 'react-bootstrap';
import { frameSize, pictureRect, STRAIGHTEN_LIMIT, Turn } from '@/core/frame/framing';
import { formatNumber } from '@/core/measure/format';
import { typedNumber } from '@/core/measure/typed';
import { framingOf } from '@/core/recipe/plan';
import { Choices } from '../../../parts/Choices';
import { FigureField } from '../../../parts/FigureField';
import { Fold } from '../../../parts/Fold';
import { Slider } from '../../../parts/Slider';
import { shapeOfPaper } from '../../stage/modes/crop/CropOnPicture';
import type { WorkBench } from '../../use-work';
import { lookIn, useLooking } from '../../stage/modes/mode';
import { say } from '@/core/words/say';

/** Turning, straightening and cropping; the original itself stays whole. */
export function FramingControls({ bench }: { bench: WorkBench }) {
  const { work, change, sketch, original } = bench;
  const special = useLooking((looking) => looking.special);
  const crop = special?.way === 'crop' ? special : null;
  const { framing } = work;
  const frame = frameSize(original.size, framingOf(original, work));
  const rect = pictureRect(original.size, framingOf(original, work));

  const turnBy = (degrees: number, label: string) =>
    change(label, (next) => {
      next.framing.turn = Turn.parse((next.framing.turn + degrees + 360) % 360);
      // A part that was taken turns with the picture.
      const taken = next.framing.crop;
      if (!taken) return;
      next.framing.crop =
        degrees > 0
          ? {
              x: frame.height - taken.y - taken.height,
              y: taken.x,
              width: taken.height,
              height: taken.width,
            }
          : {
              x: taken.y,
              y: frame.width - taken.x - taken.width,
              width: taken.height,
              height: taken.width,
            };
    });

  const side = (name: 'x' | 'y' | 'width' | 'height', label: string) => {
    const along = name === 'x' || name === 'width' ? 'width' : 'height';
    const start = along === 'width' ? 'x' : 'y';
    const least = name === start ? 0 : 1;
    const most = name === start ? frame[along] - 1 : frame[along] - rect[start];
    return (
      <FigureField
        label={label}
        text={String(rect[name])}
        read={(text) => typedNumber(text, { least, most, whole: true })}
        onEnter={(value) =>
          change(say`Crop`, (next) => {
            const crop = { ...rect, [name]: value };
            if (name === start) crop[along] = Math.min(crop[along], frame[along] - value);
            next.framing.crop = crop;
          })
        }
      />
    );
  };

  // Of shapes, hundredths of points.
  const unit = original.vector ? 'pt/100' : 'px';
  const straightenTo = (value: number) => (next: WorkBench['work']) => {
    next.framing.straighten = value;
  };
  const parts = [
    framing.turn ? say`turned ${framing.turn}°` : '',
    framing.straighten ? `${formatNumber(framing.straighten)}°` : '',
    framing.crop ? (original.vector ? 'cropped' : `${rect.width} × ${rect.height}`) : '',
  ].filter(Boolean);
  const paper = shapeOfPaper(bench);
  return (
    <Fold title={say`Turn, straighten, crop`} line={parts.join(' · ') || say`untouched`}>
      <div className="d-flex gap-2">
        <Button variant="quiet" size="sm" onClick={() => turnBy(-90, say`Turned left`)}>
          <RotateCcw size={14} aria-hidden /> {say`Left`}
        </Button>
        <Button variant="quiet" size="sm" onClick={() => turnBy(90, say`Turned right`)}>
          <RotateCw size={14} aria-hidden /> {say`Right`}
        </Button>
        <Button
          variant={crop ? 'primary' : 'quiet'}
          size="sm"
          className="ms-auto"
          aria-pressed={crop !== null}
          onClick={() => lookIn(crop ? null : { way: 'crop', shape: 'free' })}
        >
          <Crop size={14} aria-hidden /> {crop ? say`Done` : say`Crop`}
        </Button>
      </div>
      {!original.vector && (
        <Slider
          label={say`Straighten`}
          value={framing.straighten}
          min={-STRAIGHTEN_LIMIT}
          max={STRAIGHTEN_LIMIT}
          step={0.1}
          usual={0}
          unit="°"
          onDrag={(value) => sketch(straightenTo(value))}
          onSet={(value) => change(say`Straightened ${formatNumber(value)}°`, straightenTo(value))}
        />
      )}
      {crop && paper !== null && (
        <Choices
          name="crop-shape"
          label={say`Shape of the crop`}
          value={crop.shape}
          onChange={(value) => lookIn({ way: 'crop', shape: value })}
          options={[
            { value: 'free', label: say`Free` },
            { value: 'paper', label: say`In the paper’s shape` },
          ]}
        />
      )}
      {(crop || framing.crop) && (
        <>
          <div className="length-fields quarters">
            {side('x', `Left, ${unit}`)}
            {side('y', `Top, ${unit}`)}
            {side('width', `Width, ${unit}`)}
            {side('height', `Height, ${unit}`)}
          </div>
          {framing.crop && (
            <Button
              variant="quiet"
              size="sm"
              className="align-self-start"
              onClick={() => change(say`No crop`, (next) => (next.framing.crop = null))}
            >
              {say`No crop`}
            </Button>
          )}
        </>
      )}
    </Fold>
  );
}
