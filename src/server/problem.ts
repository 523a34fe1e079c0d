/** What kind of trouble it is; faces turn it into a status or an exit code. */
export type ProblemKind = 'usage' | 'input' | 'conflict' | 'missing' | 'work' | 'full';

/**
 * Trouble that a person can do something about. The message is one sentence or two for them: what
 * happened to which file, what was kept, what to do.
 */
export class Problem extends Error {
  constructor(
    readonly kind: ProblemKind,
    message: string,
    /** further facts for a program, e.g. the current state after a conflict */
    readonly facts?: unknown,
  ) {
    super(message);
    this.name = 'Problem';
  }
}

/** A system error's code, where the value is one. */
export const errorCode = (error: unknown): string | undefined =>
  error instanceof Error && 'code' in error ? String(error.code) : undefined;

/** Whether there was no room on the disk. An error that comes from a thread has lost its code, not its message. */
export const isDiskFull = (error: unknown): boolean =>
  ['ENOSPC', 'EDQUOT', 'SQLITE_FULL'].includes(errorCode(error) ?? '') ||
  /ENOSPC|SQLITE_FULL|no space left|disk is full/i.test(String(error));

/** Any error in words for a person; unknown ones without their inner workings. */
export function inWords(error: unknown): string {
  if (error instanceof Problem) return error.message;
  if (isDiskFull(error)) {
    return 'The disk is full. What was written so far was removed; free some space and start again.';
  }
  return 'Something unexpected went wrong. Nothing of the job was changed; try again.';
}
