/** A started LittleCMS. Profiles and transforms are numbers; 0 is none. */
export interface Lcms {
  cmsOpenProfileFromMem(bytes: Uint8Array, length: number): number;
  cmsCloseProfile(profile: number): void;
  cmsGetColorSpaceASCII(profile: number): string | null;
  cmsCreateTransform(
    from: number,
    fromFormat: number,
    to: number,
    toFormat: number,
    intent: number,
    flags: number,
  ): number;
  /** its memory; it may grow, and lie elsewhere then */
  HEAPU8: Uint8Array;
  _malloc(bytes: number): number;
  _cmsDoTransform(transform: number, from: number, to: number, pixels: number): void;
}

/** What is used of the package lcms-wasm, which ships without types. */
export interface LcmsPackage {
  instantiate(options: { wasmBinary: ArrayBuffer }): Promise<Lcms>;
  TYPE_RGB_16: number;
  TYPE_CMYK_16: number;
  TYPE_GRAY_16: number;
  INTENT_PERCEPTUAL: number;
  INTENT_RELATIVE_COLORIMETRIC: number;
  INTENT_SATURATION: number;
  INTENT_ABSOLUTE_COLORIMETRIC: number;
  cmsFLAGS_BLACKPOINTCOMPENSATION: number;
  cmsFLAGS_HIGHRESPRECALC: number;
}
