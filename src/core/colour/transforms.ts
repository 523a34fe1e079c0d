import type { Conversion } from './conversion';
import type { ColourEngine, Transform } from './engine';

/** The profiles that a picture's colours are converted between. */
export interface ProfilePair {
  /** the picture's own, and what it is known by */
  from: { digest: string; bytes: Uint8Array };
  /** the conversion's */
  to: Uint8Array;
}

/** Transforms, each made once; one that failed is tried again. */
export function transformsFrom(
  engine: () => Promise<ColourEngine>,
): (profiles: ProfilePair, conversion: Conversion) => Promise<Transform> {
  const made = new Map<string, Promise<Transform>>();
  return ({ from, to }, { profile, intent, blackPoint }) => {
    const key = [from.digest, profile, intent, blackPoint].join(' ');
    let transform = made.get(key);
    if (!transform) {
      transform = engine().then((by) => by.transform(from.bytes, to, { intent, blackPoint }));
      made.set(key, transform);
      transform.catch(() => made.delete(key));
    }
    return transform;
  };
}
