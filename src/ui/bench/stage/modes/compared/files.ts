import { useQueries } from '@tanstack/react-query';
import { format } from 'date-fns';
import { useMemo } from 'react';
import type { FoundShift } from '@/core/evidence/shift';
import { factorOf } from '@/core/measure/plan';
import { formatOf } from '@/core/output/formats';
import { panelsOf } from '@/core/output/output';
import { fileOnPaper, type PictureFile } from '@/core/recipe/file-on-paper';
import { canonicalJson } from '@/core/recipe/canonical';
import type { Recipe } from '@/core/recipe/recipe';
import { untreated } from '@/core/recipe/views';
import { artifactOf, type Run } from '@/core/shop/task';
import type { Brought } from '@/core/shop/comparing';
import type { Sending } from '@/core/shop/sending';
import { ask, PRIORITY } from '@/preview/client';
import { useSendings } from '../../../../data/devices';
import { useComparing } from '../../../../data/comparing';
import { paneOriginal, wholeOriginal, type PaneOriginal } from '../../../preview-original';
import type { WorkBench } from '../../../use-work';
import { say } from '@/core/words/say';

/** A picture file that can stand beside the result: that of a finished run, or one brought from outside. */
export interface FileBeside {
  name: string;
  made: string;
  file: PictureFile;
  pane: PaneOriginal;
  /** a print, whose pixels are dots of ink */
  dots: boolean;
  /** the record of one that was brought; its place on the paper isn't known before it is looked for */
  brought: number | null;
}

/** All files that can stand beside the bench's picture. */
export function useFiles({ job }: WorkBench): readonly FileBeside[] {
  const brought = useComparing(job.piece.id).data?.brought;
  const sendings = useSendings(job.piece.id).data;
  const profiled = job.piece.findings.profile !== null;
  return useMemo(
    () => [
      ...job.runs.flatMap((run) => fileOfRun(run, profiled)),
      ...(sendings ?? []).flatMap(fileOfPrint),
      ...(brought ?? []).map(fileBrought),
    ],
    [job.runs, sendings, brought, profiled],
  );
}

/** @param profiled whether the original's colours are described by a profile of its own */
function fileOfRun(run: Run, profiled: boolean): FileBeside[] {
  const made = artifactOf(run, 'result');
  if (!made?.digest || made.goneAt !== null || !run.result) return [];
  const { digest } = made;
  const { recipe, trialName } = run.payload;
  const { width, height } = run.result;
  const { output } = recipe;
  // Panels are no picture to be looked at.
  if (panelsOf(output)) return [];
  const alpha = recipe.alpha === 'kept';
  return [
    {
      name: say`${trialName}, file of ${format(run.finishedAt ?? run.queuedAt, 'd MMM HH:mm')}`,
      made: say`${formatOf(output.format).name} as it was written`,
      file: { digest, page: 1, width, height, alpha },
      pane: {
        ...{ digest, page: 1 },
        depth: output.format === 'jpeg' ? 8 : output.depth,
        channels: alpha ? 4 : 3,
        // What was converted comes in a screen's colours.
        profiled: profiled && !output.colour,
      },
      ...{ dots: false, brought: null },
    },
  ];
}

/** A print as its device shows it, where it is one page; a proof is on a paper of its own. */
function fileOfPrint({ key, state, proof, dots, device, at, finishedAt }: Sending): FileBeside[] {
  if (state !== 'printed' || !dots || proof) return [];
  return [
    {
      name: say`Print of ${format(finishedAt ?? at, 'd MMM HH:mm')}`,
      made: say`as ${device} lays its ink`,
      file: { digest: key, page: 1, ...dots, alpha: false },
      pane: { digest: key, page: 1, depth: 8, channels: 3, profiled: false },
      ...{ dots: true, brought: null },
    },
  ];
}

const fileBrought = ({ id, digest, page, fileName, findings }: Brought): FileBeside => ({
  ...{ name: fileName, made: say`brought from outside`, dots: false, brought: id },
  file: { digest, page, width: findings.width, height: findings.height, alpha: findings.alpha },
  pane: paneOriginal(digest, findings),
});

/** How far a file is moved; null where nothing tells, and undefined before it is known. */
type Moved = FoundShift | null | undefined;

/**
 * How far those that were brought are moved to lie on the original, in pixels of the result: found once for each and
 * every paper. Files of runs lie where they are, and are not among them.
 */
export function useShifts(
  { resolved, job }: WorkBench,
  files: readonly FileBeside[],
): ReadonlyMap<string, Moved> {
  const recipe = resolved.ok ? resolved.recipe : null;
  const factor = resolved.ok ? factorOf(resolved.plan) : 1;
  const { digest, findings } = job.piece;
  const on = useMemo(() => recipe && untreated(recipe), [recipe]);
  const moved = files.filter(({ brought }) => brought !== null);
  const found = useQueries({
    queries: moved.map(({ file, pane }) => ({
      queryKey: ['shift', digest, findings.page, file.digest, file.page, on?.steps, on?.target],
      queryFn: ({ signal }: { signal: AbortSignal }) =>
        ask(
          'shift',
          {
            original: wholeOriginal(digest, findings, on!),
            ...{ recipe: on!, file, factor },
            fileOriginal: { ...pane, level: 0, size: sizeOf(file), drawn: null },
          },
          { priority: PRIORITY.asked, group: 'shift', signal },
        ),
      ...{ enabled: on !== null && !findings.vector, staleTime: Infinity },
    })),
  });
  const shifts = found.map(({ data, isError }): Moved =>
    isError || findings.vector ? null : data,
  );
  const key = canonicalJson(shifts.map((shift) => shift ?? `${shift}`));
  return useMemo(
    () => new Map(moved.map(({ file }, i) => [file.digest, shifts[i]])),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [files, key],
  );
}

const sizeOf = ({ width, height }: PictureFile) => ({ width, height });

/** A file's recipe on the paper of a result. */
export const recipeOfFile = (recipe: Recipe, { file }: FileBeside, shift: Moved): Recipe =>
  fileOnPaper(recipe, file, shift ?? undefined);

/** Places that are farther off than so many pixels of the print show that it isn't the same crop. */
const OFF = 3;

/** What was done to a file for it to lie on the result, in a word; nothing where that is nothing. */
export function shiftWords({ brought }: FileBeside, shift: Moved): string {
  if (brought === null || shift === null) return '';
  if (!shift) return say`, its place is looked for …`;
  const { x, y, spread } = shift;
  const moved = x !== 0 || y !== 0 ? say`, moved ${x}, ${y} px` : '';
  return spread > OFF ? say`${moved}; another crop: parts lie ${spread} px off` : moved;
}
