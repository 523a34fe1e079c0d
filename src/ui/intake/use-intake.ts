import { useCallback, useEffect, useRef, useState } from 'react';
import type { TakenIn } from '@/core/shop/job';
import { upload } from '../data/api';
import { tell } from '../data/notices';
import { askBeforeLeaving } from '../parts/leaving';

/** A file on its way in. */
export interface Sending {
  name: string;
  /** of how many, counted from 1 */
  number: number;
  of: number;
  /** 0–1 of this file's bytes */
  share: number;
}

/** A file that could not be taken in, and why. */
export interface Refused {
  name: string;
  why: string;
}

/**
 * Takes files in, one after another; where one can't be used the others go on. What was taken in is handed over together,
 * at the end, with what was not; where none was, that is told.
 */
export function useIntake(onTaken: (taken: TakenIn[], refused: Refused[]) => void) {
  const [sending, setSending] = useState<Sending | null>(null);
  const busy = useRef(false);
  const latest = useRef(onTaken);
  useEffect(() => {
    latest.current = onTaken;
  });
  const take = useCallback(async (files: readonly File[]) => {
    if (busy.current || files.length === 0) return;
    busy.current = true;
    const mayGo = askBeforeLeaving(() => true);
    const taken: TakenIn[] = [];
    const refused: Refused[] = [];
    for (const [i, file] of files.entries()) {
      const at = { name: file.name, number: i + 1, of: files.length };
      setSending({ ...at, share: 0 });
      try {
        taken.push(await upload(file, (share) => setSending({ ...at, share })));
      } catch (error) {
        const why = error instanceof Error ? error.message : String(error);
        refused.push({ name: file.name, why });
      }
    }
    busy.current = false;
    mayGo();
    setSending(null);
    // The same file twice in one go is one picture.
    const unique = [...new Map(taken.map((one) => [one.digest, one])).values()];
    if (unique.length > 0) latest.current(unique, refused);
    else for (const { why } of refused) tell(why, 'trouble');
  }, []);

  useEffect(() => {
    const paste = (event: ClipboardEvent) => {
      const files = [...(event.clipboardData?.files ?? [])];
      if (files.length === 0) return;
      event.preventDefault();
      void take(files.map(named));
    };
    addEventListener('paste', paste);
    return () => removeEventListener('paste', paste);
  }, [take]);

  return { sending, take };
}

/** Clipboards call every picture the same; the time tells them apart. */
function named(file: File): File {
  if (!/^image\.\w+$/.test(file.name)) return file;
  const time = new Date().toISOString().slice(0, 16).replace(/[T:]/g, '-');
  return new File([file], `pasted-${time}.${file.name.split('.').pop()}`, { type: file.type });
}
