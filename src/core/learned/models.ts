import { z } from 'zod';

/** The networks that ship with the application; models/README.md is their card. */
export const MODELS = {
  compression: {
    file: 'clean-compression.onnx',
    digest: '8a49037f80af728581d2862f51734369ba31009d171bd981d0de3143c3be5d56',
  },
  noise: {
    file: 'clean-noise.onnx',
    digest: '93c1d4d80b20eae6985f67aea6565941b4d5ebd9b8bf89fb401921be5815fcd2',
  },
} as const;

export type ModelName = keyof typeof MODELS;

const digest = z.string().nullable();

/** Which models can be used: their digests, or null. */
export const UsableModels = z.object({ compression: digest, noise: digest });
export type Models = z.infer<typeof UsableModels>;

export const NO_MODELS: Models = { compression: null, noise: null };
export const ALL_MODELS: Models = {
  compression: MODELS.compression.digest,
  noise: MODELS.noise.digest,
};
