import { z } from 'zod';
import type { Form } from './convolutions';

const cleans: Form = { unshuffle: 2, shuffle: 2 };
const enlarges: Form = { unshuffle: 1, shuffle: 4 };

/** The networks that ship with the application; models/README.md is their card. */
export const MODELS = {
  compression: {
    file: 'clean-compression.onnx',
    digest: 'f4d1d607aa6ab65d38ceb28195ae96c770244e132a2c8826504cc6856fd4f3a3',
    form: cleans,
  },
  noise: {
    file: 'clean-noise.onnx',
    digest: '8a2f8b58e3e576c312ba6b6068abf28f4f6636066a83817002271b5d5361b801',
    form: cleans,
  },
  photo: {
    file: 'enlarge-photo.onnx',
    digest: '5079622d5f77e6d4d292f9c33da9eb6f1981442a56f19b686cf7fb4d28b933a0',
    form: enlarges,
  },
  art: {
    file: 'enlarge-art.onnx',
    digest: '06c44ca20d23c55168ffa9b94e5d31249bf064bc8ceedc96835106d758508695',
    form: enlarges,
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
