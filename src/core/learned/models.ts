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
  restore: {
    file: 'restore.onnx',
    digest: 'ce7aea22658c144bb625470803b17260b99cfeb09e5bdcffef7ecde3a0ba7fdb',
    form: cleans,
  },
  measure: {
    file: 'measure.onnx',
    digest: '3bc7b961f3345d413f5320eb14a9a38431aa7b6637164ac9514a5d3c8eb00fb2',
    form: null,
  },
  noiseKind: {
    file: 'noise-kind.onnx',
    digest: 'eb69cd5f6a5b23ce36c3266a0c0f45cc7fce98856cf1cb4d78e7e564bdf82cf9',
    form: null,
  },
  faces: {
    file: 'faces.onnx',
    digest: '4c6411133e5af99cf878475313230d10c55b32abf127cf57ccc8d7c6c9af3400',
    form: null,
  },
  noise: {
    file: 'clean-noise.onnx',
    digest: '8a2f8b58e3e576c312ba6b6068abf28f4f6636066a83817002271b5d5361b801',
    form: cleans,
  },
  photo: {
    file: 'enlarge-photo.onnx',
    digest: 'ed5c632c2b5d7b2beac111bab026efda50b81478ed17b2cffa22a7acea632928',
    form: enlarges,
  },
  art: {
    file: 'enlarge-art.onnx',
    digest: '06c44ca20d23c55168ffa9b94e5d31249bf064bc8ceedc96835106d758508695',
    form: enlarges,
  },
} as const;

export type ModelName = keyof typeof MODELS;

const names = Object.keys(MODELS) as ModelName[];
const digestsBy = (of: (name: ModelName) => string | null): Models =>
  Object.fromEntries(names.map((name) => [name, of(name)])) as Models;

/** Which models can be used: their digests, or null. */
export const UsableModels = z.record(z.enum(names), z.string().nullable());
export type Models = z.infer<typeof UsableModels>;

export const NO_MODELS: Models = digestsBy(() => null);
export const ALL_MODELS: Models = digestsBy((name) => MODELS[name].digest);
