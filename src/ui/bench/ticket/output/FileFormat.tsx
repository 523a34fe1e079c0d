import { Form } from 'react-bootstrap';
import { Format, formatOf, packingsOf, type Compression } from '@/core/output/formats';
import { inFormat, isLossy, packedBy, packingOf, type Output } from '@/core/output/output';
import { outputRefusal } from '@/core/output/refusal';
import { Choices } from '../../../parts/Choices';
import { Fold } from '../../../parts/Fold';
import { Slider } from '../../../parts/Slider';
import { slides, type WorkBench } from '../../use-work';
import { JpegCost } from './JpegCost';
import { put } from './put';
import { say } from '@/core/words/say';

const FORMATS = Format.options.map((value) => ({ value, label: formatOf(value).name }));
const SAMPLINGS: { value: Output['sampling']; label: string; title: string }[] = [
  { value: '4:4:4', label: say`4:4:4, full`, title: say`Every pixel has a colour of its own` },
  { value: '4:2:0', label: say`4:2:0, half`, title: say`Four pixels share one colour` },
];
const DITHERING: { value: Output['dither']; label: string }[] = [
  { value: 'auto', label: say`Automatic` },
  { value: 'always', label: say`Dithered` },
  { value: 'never', label: say`Rounded` },
];

/** In which format, and how tightly, a trial's result is written. */
export function FileFormat({ bench }: { bench: WorkBench }) {
  const { change, resolved, original } = bench;
  const { output } = bench.trial;
  const { format, compression } = output;
  const known = formatOf(format);
  const packings = packingsOf(format);
  const refused = resolved.ok && outputRefusal(output, resolved.recipe.target);
  const packed = (value: Compression) => known.packings[value]!.label;
  return (
    <>
      <Choices
        name="format"
        label={say`File format`}
        value={format}
        options={FORMATS}
        onChange={(value) => change(formatOf(value).name, put(inFormat(output, value)))}
      />
      <p className="reason">{known.blurb}</p>
      {packings.length > 1 && (
        <Choices
          name="packing"
          label={say`Compression`}
          value={compression}
          options={packings.map((value) => ({ value, label: packed(value) }))}
          onChange={(value) =>
            change(`${known.name}: ${packed(value).toLowerCase()}`, put(packedBy(output, value)))
          }
        />
      )}
      {resolved.ok && resolved.recipe.tagOnly ? (
        <p className="reason">
          {say`The original’s own JPEG with another size tag: no pixel of it is touched.`}
        </p>
      ) : isLossy(output) ? (
        <Lossy bench={bench} />
      ) : (
        <Bits bench={bench} />
      )}
      {output.depth === 8 && !isLossy(output) && (
        <Fold title={say`Finer than 8 bit`} line={ditherLabel(output.dither).toLowerCase()}>
          <Choices
            name="dither"
            label={say`What is finer than 8 bit`}
            value={output.dither}
            options={DITHERING}
            onChange={(dither) =>
              change(say`Finer than 8 bit: ${ditherLabel(dither).toLowerCase()}`, put({ dither }))
            }
          />
          <p className="reason">{ditherWords(output.dither, original.depth)}</p>
        </Fold>
      )}
      {refused && <p className="caution mb-0">{refused}</p>}
    </>
  );
}

const ditherLabel = (dither: Output['dither']): string =>
  DITHERING.find(({ value }) => value === dither)!.label;

function ditherWords(dither: Output['dither'], depth: number): string {
  if (dither === 'never') return say`What is finer than 8 bit is rounded; wide gradients may band.`;
  if (dither === 'always' || depth > 8)
    return say`What is finer than 8 bit is kept as a pattern too fine to see: gradients don’t band.`;
  return say`The original has 8 bit: rounded. Dithering keeps gradients that were cleaned from banding.`;
}

function Lossy({ bench }: { bench: WorkBench }) {
  const { change, original, trial } = bench;
  const { output } = trial;
  const known = formatOf(output.format);
  return (
    <>
      {trial.pixels === 'kept' && !original.vector && (
        <p className="caution mb-0">
          {say`Its pixels are compressed anew here. TIFF and PNG keep every one of them.`}
        </p>
      )}
      <Slider
        label={say`Quality`}
        value={output.quality}
        min={known.quality.min}
        max={known.quality.max}
        usual={known.quality.usual}
        step={1}
        unit=""
        {...slides(
          bench,
          (value) => put({ quality: value }),
          (value) => say`${known.name} quality ${value}`,
        )}
      />
      {known.samplings && <JpegCost bench={bench} />}
      {known.samplings && (
        <>
          <Choices
            name="sampling"
            label={say`Chroma subsampling`}
            value={output.sampling}
            options={SAMPLINGS}
            onChange={(sampling) => change(say`Colours ${sampling}`, put({ sampling }))}
          />
          <Form.Check
            type="checkbox"
            id="output-progressive"
            label={say`Progressive`}
            checked={output.progressive}
            onChange={() =>
              change(
                output.progressive ? say`Not progressive` : say`Progressive`,
                put({ progressive: !output.progressive }),
              )
            }
          />
        </>
      )}
    </>
  );
}

function Bits({ bench: { change, trial } }: { bench: WorkBench }) {
  const { output } = trial;
  const { depths } = packingOf(output);
  if (depths.length < 2) return null;
  return (
    <Choices
      name="depth"
      label={say`Bits a sample`}
      value={String(output.depth) as '8' | '16'}
      options={depths.map((depth) => ({
        value: String(depth) as '8' | '16',
        label: say`${depth} bit`,
      }))}
      onChange={(value) => change(say`${value} bit`, put({ depth: value === '8' ? 8 : 16 }))}
    />
  );
}
