import { ServerProblem } from './api';

/** How often a shop that does not answer is asked again, and after how long. */
const TRIES = 40;
const AGAIN_MS = 1500;

/** Asks again where the shop does not answer just now: that is no fault of the file. */
export async function insistently<T>(ask: () => Promise<T>): Promise<T> {
  for (let tries = 1; ; tries++) {
    try {
      return await ask();
    } catch (error) {
      if (!(error instanceof ServerProblem) || error.status !== 0 || tries === TRIES) throw error;
      await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
    }
  }
}
