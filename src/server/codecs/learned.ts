import { MODELS, type ModelName } from '@/core/learned/models';
import { ModelProblem } from '@/core/learned/network';
import { modelBytes } from '../files/models';

/**
 * What a model tells of a picture; null where the model is missing. It is loaded once; where that failed it is tried again with
 * the next picture.
 * @param build makes of its file what is asked
 */
export function toldBy<Network>(
  name: ModelName,
  build: (bytes: Uint8Array) => Network,
): <Result>(ask: (network: Network) => Promise<Result>) => Promise<Result | null> {
  let loaded: Promise<Network> | null = null;
  const network = (): Promise<Network> => {
    loaded ??= modelBytes(MODELS[name].digest).then(build);
    loaded.catch(() => (loaded = null));
    return loaded;
  };
  return async (ask) => {
    try {
      return await ask(await network());
    } catch (error) {
      if (error instanceof ModelProblem) return null;
      throw error;
    }
  };
}
