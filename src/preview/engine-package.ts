import type { LcmsPackage } from '@/core/colour/lcms';

/** The colour engine's package as the shop serves it: it looks for what only Node has, and bundlers stumble over that. */
export const enginePackage = (): Promise<LcmsPackage> =>
  import(/* turbopackIgnore: true */ new URL('/api/engine/lcms.js', self.location.origin).href);
