import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { useCallback, useEffect, useRef } from 'react';
import type { Size } from '@/core/raster/region';
import { emptyMask, maskBytes, maskFromBytes, type Mask } from '@/core/zone/mask';
import type { Painted } from '@/core/zone/zone';
import { askAll } from '@/preview/client';
import { api } from '../../../data/api';
import { tell } from '../../../data/notices';

/** Masks that stay at hand, so that undoing a stroke needs nothing from the server. */
const AT_HAND = 4;

/**
 * The mask of the zone under work, to be painted on in place.
 * @param painted what stands painted, or null
 * @param size of the mask
 */
export function useMask(painted: Painted | null, size: Size) {
  const known = useRef(new Map<string, Mask>());
  const mask = useRef<Mask | null>(null);
  /** strokes are kept one after the other */
  const last = useRef<Promise<unknown>>(Promise.resolve());
  /** strokes that are drawn or on their way: the mask is ahead of what the work says */
  const ahead = useRef(0);
  const { width, height } = size;

  useEffect(() => {
    if (ahead.current > 0) return;
    const digest = painted?.digest;
    if (!digest) {
      mask.current = emptyMask({ width, height });
      return;
    }
    const here = known.current.get(digest);
    if (here) {
      mask.current = copy(here);
      return;
    }
    let wanted = true;
    mask.current = null;
    api
      .mask(painted)
      .then((bytes) => {
        if (wanted) mask.current = maskFromBytes(bytes, painted);
      })
      .catch((error: Error) => tell(error.message, 'trouble'));
    return () => void (wanted = false);
  }, [painted?.digest, width, height]); // eslint-disable-line react-hooks/exhaustive-deps

  /** To be said when a stroke begins; answers with what is to be called once it is part of the work. */
  const begin = useCallback(() => {
    ahead.current++;
    return () => void ahead.current--;
  }, []);

  /** Keeps the mask as it stands; resolves with its name, once nothing can be lost any more. */
  const keep = useCallback((): Promise<Painted> => {
    const { ink, cover, ...sides } = mask.current!;
    const bytes = maskBytes({ ink, cover, ...sides });
    const kept = last.current.then(async () => {
      const digest = bytesToHex(sha256(bytes));
      const name = { digest, ...sides };
      await api.keepMask(name, bytes);
      known.current.set(digest, copy(maskFromBytes(bytes, sides)));
      if (known.current.size > AT_HAND) known.current.delete(known.current.keys().next().value!);
      await askAll('mask', { digest, bytes, size: sides });
      return name;
    });
    last.current = kept.catch(() => {});
    return kept;
  }, []);

  return { mask, begin, keep };
}

const copy = (mask: Mask): Mask => ({
  ...mask,
  ink: mask.ink.slice(),
  cover: mask.cover.slice(),
});
