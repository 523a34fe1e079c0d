/** A network that turns input planes into output planes: of the same size, or a whole number larger. */
export interface Network {
  /**
   * @param planes one after another, each `height` rows of `width`; both even
   * @param margin pixels at each border whose results are left out
   * @returns the output planes in the same order of memory
   */
  run(planes: Float32Array, width: number, height: number, margin: number): Float32Array;
}

/** Why a learned step can't be computed, in words. */
export class ModelProblem extends Error {}
