/** The networks that ship with the application; models/README.md is their card. */
export const MODELS = {
  compression: { file: 'clean-compression.onnx', digest: '0'.repeat(64) },
  noise: { file: 'clean-noise.onnx', digest: '0'.repeat(64) },
} as const;

export type ModelName = keyof typeof MODELS;

/** Which models can be used: their digests, or null. */
export type Models = Record<ModelName, string | null>;

export const NO_MODELS: Models = { compression: null, noise: null };
export const ALL_MODELS: Models = {
  compression: MODELS.compression.digest,
  noise: MODELS.noise.digest,
};
