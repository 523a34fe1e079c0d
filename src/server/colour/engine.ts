import { startEngine, type ColourEngine } from '@/core/colour/engine';

let starting: Promise<ColourEngine> | undefined;

/** The colour engine of this process, started once. */
export const engine = (): Promise<ColourEngine> => (starting ??= startEngine());
