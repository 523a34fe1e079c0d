import * as Comlink from 'comlink';
import type { Region } from '@/core/raster/region';
import type { SettledRecipe } from '@/core/treatment/recipe';
import type { Against, Pixels, PreviewOriginal, PreviewWorker } from './worker';

export type { Against, Pixels, PreviewOriginal, Spotted } from './worker';

let remote: Comlink.Remote<PreviewWorker> | undefined;

/** The preview worker, started when it is first needed. */
export function worker(): Comlink.Remote<PreviewWorker> {
  remote ??= Comlink.wrap<PreviewWorker>(
    new Worker(new URL('./worker.ts', import.meta.url), { type: 'module', name: 'preview' }),
  );
  return remote;
}

export interface PreviewRequest {
  original: PreviewOriginal;
  recipe: SettledRecipe;
  region: Region;
  /** shows how the picture differs from this one's */
  against?: Against | undefined;
  /** whether a classical estimate will do, where the learned one takes a while */
  mayDraft?: boolean;
}

const render = ({
  original,
  recipe,
  region,
  against,
  mayDraft = false,
}: PreviewRequest): Promise<Pixels> =>
  worker().render(original, recipe, region, against ?? null, mayDraft);

/**
 * Asks the preview worker for pixels, one request at a time; of those that come meanwhile only the
 * newest is kept, since nobody wants to see where a slider was.
 */
export class PreviewQueue {
  private busy = false;
  private next: (() => void) | undefined;

  /** Resolves with the pixels, or with null where a newer request took this one's place. */
  ask(request: PreviewRequest): Promise<Pixels | null> {
    return new Promise((resolve, reject) => {
      this.next?.();
      const start = async () => {
        this.busy = true;
        try {
          resolve(await render(request));
        } catch (error) {
          reject(error instanceof Error ? error : new Error(String(error)));
        } finally {
          this.busy = false;
          const waiting = this.waiting;
          this.next = undefined;
          this.waiting = undefined;
          void waiting?.();
        }
      };
      if (!this.busy) {
        void start();
        return;
      }
      this.waiting = start;
      this.next = () => resolve(null);
    });
  }

  private waiting: (() => Promise<void>) | undefined;
}
