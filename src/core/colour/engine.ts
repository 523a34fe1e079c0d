import { emptyRaster, type Raster } from '../raster/raster';
import { inkCube, throughCube } from './cube';
import type { Conversion, Intent } from './conversion';
import { formOf } from './form';
import type { LcmsPackage } from './lcms';
import { ProfileProblem } from './problem';
import { COLOURS, type DeviceSpace } from './space';

/** Turns colours of one profile into those of another. */
export interface Transform {
  /**
   * The same picture in the other profile's colours; alpha stays as it is.
   * @throws RangeError where the raster has another number of colours than the profile
   */
  apply(raster: Raster): Raster;
}

/** Converts colours between profiles: the one engine for the stage and for files. */
export interface ColourEngine {
  /**
   * A transform from a profile to another; it stays for as long as the engine does.
   * @param from the bytes of an RGB, grey or CMYK profile
   * @throws ProfileProblem where one of them is none, or of colours that are not worked in here
   */
  transform(from: Uint8Array, to: Uint8Array, how: How): Transform;
  /** What the colours of a profile are. @throws ProfileProblem where it is none */
  spaceOf(profile: Uint8Array): DeviceSpace;
}

/** How a conversion is done. */
export type How = Pick<Conversion, 'intent' | 'blackPoint'>;

const SPACES: Record<string, DeviceSpace> = { RGB: 'rgb', GRAY: 'grey', CMYK: 'cmyk' };
/** Pixels that are converted at a time. */
const AT_ONCE = 1 << 16;
const MOST_COLOURS = 4;
const FULL = 65_535;

/** Samples in the engine's memory. */
interface Buffer16 {
  at: number;
  /** they move when that grows: asked for anew before each use */
  samples(): Uint16Array;
}

/** Converts so many pixels from one buffer to the other. */
type Run = (pixels: number) => void;

/**
 * Starts the engine: LittleCMS, compiled to WASM. Colours are converted as numbers of 16 bits, by a cube of them where
 * a way is not simple, so that a stage of it costs little.
 * @param lcms its package
 * @param wasm its code
 */
export async function startEngine(lcms: LcmsPackage, wasm: ArrayBuffer): Promise<ColourEngine> {
  const library = await lcms.instantiate({ wasmBinary: wasm });
  const intents: Record<Intent, number> = {
    perceptual: lcms.INTENT_PERCEPTUAL,
    relative: lcms.INTENT_RELATIVE_COLORIMETRIC,
    saturation: lcms.INTENT_SATURATION,
    absolute: lcms.INTENT_ABSOLUTE_COLORIMETRIC,
  };
  const samples: Record<DeviceSpace, number> = {
    rgb: lcms.TYPE_RGB_16,
    grey: lcms.TYPE_GRAY_16,
    cmyk: lcms.TYPE_CMYK_16,
  };
  /** A place in the engine's own memory, for so many pixels of the most colours. */
  const buffer = (): Buffer16 => {
    const at = library._malloc(AT_ONCE * MOST_COLOURS * 2);
    const samples = () => new Uint16Array(library.HEAPU8.buffer, at, AT_ONCE * MOST_COLOURS);
    return { at, samples };
  };
  const [from, to] = [buffer(), buffer()];

  const withProfile = <T>(
    bytes: Uint8Array,
    use: (profile: number, space: DeviceSpace) => T,
  ): T => {
    const profile = library.cmsOpenProfileFromMem(bytes, bytes.length);
    if (!profile) throw new ProfileProblem('It is damaged, or no colour profile.');
    try {
      const space = SPACES[library.cmsGetColorSpaceASCII(profile) ?? ''];
      if (!space) throw new ProfileProblem('Its colours are neither RGB, grey nor CMYK.');
      return use(profile, space);
    } finally {
      library.cmsCloseProfile(profile);
    }
  };

  const make = (own: Uint8Array, other: Uint8Array, { intent, blackPoint }: How): Transform =>
    withProfile(own, (source, sourceSpace) =>
      withProfile(other, (target, targetSpace) => {
        const flags =
          lcms.cmsFLAGS_HIGHRESPRECALC | (blackPoint ? lcms.cmsFLAGS_BLACKPOINTCOMPENSATION : 0);
        const transform = library.cmsCreateTransform(
          ...([source, samples[sourceSpace], target, samples[targetSpace]] as const),
          ...([intents[intent], flags] as const),
        );
        if (!transform) {
          throw new ProfileProblem('It holds no way from its colours to those of another profile.');
        }
        const run: Run = (pixels) => library._cmsDoTransform(transform, from.at, to.at, pixels);
        const exactly = (raster: Raster) =>
          converted(raster, sourceSpace, targetSpace, from, to, run);
        // To inks the engine itself goes by a cube: ours has the same nodes, and runs in vectors.
        if (sourceSpace !== 'rgb' || targetSpace !== 'cmyk') return { apply: exactly };
        const cube = inkCube(exactly);
        return { apply: (raster) => throughCube(raster, cube) };
      }),
    );

  return {
    spaceOf: (profile) => withProfile(profile, (_, space) => space),
    transform: make,
  };
}

function converted(
  raster: Raster,
  fromSpace: DeviceSpace,
  toSpace: DeviceSpace,
  from: Buffer16,
  to: Buffer16,
  run: Run,
): Raster {
  const [before, after] = [COLOURS[fromSpace], COLOURS[toSpace]];
  const { form, width, height } = raster;
  if (form.colours !== before) {
    throw new RangeError(`colour: ${form.colours} planes where ${before} are converted`);
  }
  const result = emptyRaster(width, height, formOf(toSpace, form.alpha));
  const count = width * height;
  for (let start = 0; start < count; start += AT_ONCE) {
    const pixels = Math.min(AT_ONCE, count - start);
    const samples = from.samples();
    for (let c = 0; c < before; c++) {
      const plane = raster.planes[c]!;
      for (let i = 0, j = c; i < pixels; i++, j += before) {
        const value = plane[start + i]! * FULL + 0.5;
        samples[j] = value <= 0 ? 0 : value >= FULL ? FULL : value;
      }
    }
    run(pixels);
    const out = to.samples();
    for (let c = 0; c < after; c++) {
      const plane = result.planes[c]!;
      for (let i = 0, j = c; i < pixels; i++, j += after) plane[start + i] = out[j]! / FULL;
    }
  }
  if (form.alpha) result.planes[after]!.set(raster.planes[before]!);
  return result;
}
