import * as ort from 'onnxruntime-web/wasm';
import { residualNetwork } from '@/core/learned/convolutions';
import { MODELS } from '@/core/learned/models';
import { ModelProblem, type Network } from '@/core/learned/network';
import { readConvolutions } from '@/core/learned/onnx';

/** Where the runtime comes from: its bytes, or addresses of its parts and how many threads compute. */
export type Runtime =
  | { wasm: () => Promise<ArrayBuffer> }
  | { addresses: { wasm: string; mjs: string }; threads: number };

/** Says once where the runtime is, before the first network is loaded. */
export function useRuntime(runtime: Runtime): void {
  start = async () => {
    ort.env.logLevel = 'error';
    if ('wasm' in runtime) {
      ort.env.wasm.wasmBinary ??= await runtime.wasm();
      ort.env.wasm.numThreads = 1;
    } else {
      ort.env.wasm.wasmPaths = runtime.addresses;
      ort.env.wasm.numThreads = runtime.threads;
    }
  };
}

let start = (): Promise<void> =>
  Promise.reject(new ModelProblem('The runtime of learned models was not set up.'));

/**
 * A network from the bytes of an ONNX file with one input and one output.
 * @throws ModelProblem where the bytes are no such file
 */
export async function loadNetwork(model: Uint8Array): Promise<Network> {
  await start();
  let session: ort.InferenceSession;
  try {
    session = await ort.InferenceSession.create(model, { executionProviders: ['wasm'] });
  } catch (error) {
    throw new ModelProblem(`A learned model could not be loaded: ${String(error)}`);
  }
  const [input] = session.inputNames as [string];
  const [output] = session.outputNames as [string];
  // One computation at a time: the runtime has one memory.
  let last: Promise<unknown> = Promise.resolve();
  const run = async (planes: Float32Array, width: number, height: number) => {
    const shape = [1, planes.length / (width * height), height, width];
    const results = await session.run({ [input]: new ort.Tensor('float32', planes, shape) });
    const tensor = results[output]!;
    const values = (tensor.data as Float32Array).slice();
    tensor.dispose();
    return values;
  };
  return {
    run: (planes, width, height) => {
      const next = last.then(() => run(planes, width, height));
      last = next.catch(() => {});
      return next;
    },
  };
}

/** Networks that enlarge are plain convolutions, which the core's own kernels compute faster. */
const enlarges = (digest: string): boolean =>
  digest === MODELS.photo.digest || digest === MODELS.art.digest;

/** Networks by the digest of their file, each loaded once; one that failed is tried again. */
export function networksFrom(
  fetchModel: (digest: string) => Promise<Uint8Array>,
): (digest: string) => Promise<Network> {
  const loaded = new Map<string, Promise<Network>>();
  return (digest) => {
    let network = loaded.get(digest);
    if (!network) {
      network = fetchModel(digest).then((model) =>
        enlarges(digest) ? residualNetwork(readConvolutions(model)) : loadNetwork(model),
      );
      loaded.set(digest, network);
      network.catch(() => loaded.delete(digest));
    }
    return network;
  };
}
