import { z } from 'zod';

/** The networks that ship with the application; models/README.md is their card. */
export const MODELS = {
  compression: {
    file: 'clean-compression.onnx',
    digest: 'f4d1d607aa6ab65d38ceb28195ae96c770244e132a2c8826504cc6856fd4f3a3',
  },
  noise: {
    file: 'clean-noise.onnx',
    digest: '8a2f8b58e3e576c312ba6b6068abf28f4f6636066a83817002271b5d5361b801',
  },
  photo: {
    file: 'enlarge-photo.onnx',
    digest: 'f319e14a7bfd908203456117169e42ef5168c2a765ed4fda873d9fbc36b3a6de',
  },
  art: {
    file: 'enlarge-art.onnx',
    digest: '81b98d3728873b085b4a4b738f6bb1866ee6e86eadb6b145550f649cda344107',
  },
} as const;

export type ModelName = keyof typeof MODELS;

const digest = z.string().nullable();

/** Which models can be used: their digests, or null. */
export const UsableModels = z.object({
  compression: digest,
  noise: digest,
  photo: digest,
  art: digest,
});
export type Models = z.infer<typeof UsableModels>;

export const NO_MODELS: Models = { compression: null, noise: null, photo: null, art: null };
export const ALL_MODELS: Models = {
  compression: MODELS.compression.digest,
  noise: MODELS.noise.digest,
  photo: MODELS.photo.digest,
  art: MODELS.art.digest,
};
