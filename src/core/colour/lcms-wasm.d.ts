/** What is used of LittleCMS, which ships without types. Profiles and transforms are numbers; 0 is none. */
declare module 'lcms-wasm' {
  export interface Lcms {
    cmsOpenProfileFromMem(bytes: Uint8Array, length: number): number;
    cmsCloseProfile(profile: number): void;
    cmsCreateLab4Profile(whitePoint: null): number;
    cmsGetColorSpaceASCII(profile: number): string | null;
    cmsCreateTransform(
      from: number,
      fromFormat: number,
      to: number,
      toFormat: number,
      intent: number,
      flags: number,
    ): number;
    cmsDeleteTransform(transform: number): void;
    cmsDoTransform(transform: number, samples: Uint16Array, pixels: number): Uint16Array;
    cmsDoTransform(transform: number, samples: Float32Array, pixels: number): Float32Array;
  }
  export function instantiate(options?: { wasmBinary?: ArrayBuffer }): Promise<Lcms>;
  export const TYPE_RGB_16: number;
  export const TYPE_CMYK_16: number;
  export const TYPE_GRAY_16: number;
  export const INTENT_PERCEPTUAL: number;
  export const INTENT_RELATIVE_COLORIMETRIC: number;
  export const INTENT_SATURATION: number;
  export const INTENT_ABSOLUTE_COLORIMETRIC: number;
  export const cmsFLAGS_BLACKPOINTCOMPENSATION: number;
  export const cmsFLAGS_HIGHRESPRECALC: number;
}
