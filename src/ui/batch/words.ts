import {
  LEFT,
  type BatchHead,
  type BatchItem,
  type BatchPlan,
  type ItemState,
} from '@/core/batch/batch';
import { ruleWords } from '@/core/batch/size-rule';
import { formatPpi, formatTimes } from '@/core/measure/format';
import { formatOf } from '@/core/output/formats';
import { hasQuality } from './draft';
import { say } from '@/core/words/say';

const STEPS = {
  kept: say`by the trial of each`,
  proposed: say`as is proposed for each`,
  suiting: say`by the recipe that suits each`,
  house: say`by one recipe`,
};

/** What is decided in a batch, in a line. */
export const planWords = ({ size, steps, ppi, file, folder }: BatchPlan): string =>
  [
    ruleWords(size),
    STEPS[steps.by],
    ...(ppi ? [say`${formatPpi(ppi)} ppi`] : []),
    ...(file ? [fileWords(file)] : []),
    ...(folder ? [say`into “${folder}”`] : []),
  ].join(' · ');

/** How a result is written, in a word or two. */
export const fileWords = ({ format, quality }: BatchItem['facts']['file']): string =>
  hasQuality(format) ? `${formatOf(format).name} ${quality}` : formatOf(format).name;

export const countOf = (
  { states }: Pick<BatchHead, 'states'>,
  wanted: readonly ItemState[],
): number => wanted.reduce((sum, state) => sum + (states[state] ?? 0), 0);

/** How far a batch is. */
export function stateWords(batch: BatchHead): string {
  const { pictures, state, left } = batch;
  const done = countOf(batch, ['done']);
  const failed = countOf(batch, ['failed', 'cancelled']);
  const open = countOf(batch, LEFT);
  return [
    pictures === 0 ? say`no pictures yet` : say`${done} of ${pictures} made`,
    ...(failed > 0 ? [say`${failed} not made`] : []),
    ...(open > 0 && left && left.most > 0
      ? [
          state === 'running'
            ? say`${formatTimes(left.least, left.most)} left`
            : say`${formatTimes(left.least, left.most)} to go`,
        ]
      : []),
    ...(state === 'paused' && open > 0 ? [say`paused`] : []),
  ].join(' · ');
}

/** The bench with a picture of a batch on it, by the trial that the batch makes. */
export const benchAddress = ({ jobId, piece, facts }: BatchItem): string =>
  `/bench/${jobId}?piece=${piece}&trial=${encodeURIComponent(facts.trialId)}`;

/** Where a picture stands, as its row says it. */
export const ITEM_STATES: Record<ItemState, string> = {
  'not yet': say`not yet`,
  queued: say`next`,
  running: say`being made`,
  done: say`made`,
  failed: say`failed`,
  cancelled: say`cancelled`,
  'changed since': say`changed since`,
};
