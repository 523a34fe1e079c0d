import { residualNetwork } from './convolutions';
import { MODELS } from './models';
import { ModelProblem, type Network } from './network';
import { readConvolutions } from './onnx';

/**
 * Networks by the digest of their file, each loaded once; one that failed is tried again.
 * @returns rejects with ModelProblem where it is none of ours or its bytes are no model
 */
export function networksFrom(
  fetchModel: (digest: string) => Promise<Uint8Array>,
): (digest: string) => Promise<Network> {
  const loaded = new Map<string, Promise<Network>>();
  const load = async (digest: string): Promise<Network> => {
    const model = Object.values(MODELS).find((one) => one.digest === digest);
    if (!model?.form)
      throw new ModelProblem('This treatment was made with a model that is not here.');
    return residualNetwork(readConvolutions(await fetchModel(digest)), model.form);
  };
  return (digest) => {
    let network = loaded.get(digest);
    if (!network) {
      network = load(digest);
      loaded.set(digest, network);
      network.catch(() => loaded.delete(digest));
    }
    return network;
  };
}
