import { useQuery, useQueryClient } from '@tanstack/react-query';
import { ArrowLeft, ArrowRight } from 'lucide-react';
import Link from 'next/link';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Button } from 'react-bootstrap';
import type { Models } from '@/core/learned/models';
import type { BatchItem } from '@/core/batch/batch';
import { originalOf } from '@/core/recipe/original';
import { resolveRecipe } from '@/core/recipe/resolve';
import { trialOf } from '@/core/recipe/trials';
import type { Piece } from '@/core/shop/job';
import { formatPpi } from '@/core/measure/format';
import { paneOriginal } from '../bench/preview-original';
import { resultLayer } from '../bench/stage/panes/layers';
import { api, thumbnailOf } from '../data/api';
import { useModels } from '../data/queries';
import { Spot } from '../house/Spot';
import { usePlaces } from '../house/worst-place';
import type { Pictured } from '../house/recipe-on';
import { VerdictMark } from '../parts/VerdictMark';
import type { ItemsActs } from './use-acts';
import { benchAddress, fileWords, ITEM_STATES } from './words';
import { say } from '@/core/words/say';

const pieceQuery = ({ piece, revision }: BatchItem) => ({
  queryKey: ['piece', piece, revision] as const,
  queryFn: () => api.piece(piece),
  staleTime: Infinity,
});

/** Pictures of a strip to each side of the one that is looked at. */
const BESIDE = 6;

/**
 * Looks pictures of a batch through one by one: the worst place of each as it came and as it will print, at 1:1. Arrow keys
 * go along them, up and down along the places of one; G says that it is good, B that it goes to the bench.
 */
export function LookThrough({
  items,
  at,
  acts,
  onLook,
  onClose,
}: {
  items: readonly BatchItem[];
  /** which is looked at */
  at: number;
  acts: ItemsActs;
  onLook(item: number): void;
  onClose(): void;
}) {
  const client = useQueryClient();
  const index = Math.max(
    0,
    items.findIndex(({ id }) => id === at),
  );
  const item = items[index];
  const next = items[index + 1];
  const [place, setPlace] = useState(0);
  useEffect(() => setPlace(0), [at]);
  useEffect(() => {
    if (next) void client.prefetchQuery(pieceQuery(next));
  }, [client, next]);
  const go = (by: number) => {
    const to = items[Math.min(items.length - 1, Math.max(0, index + by))];
    if (to) onLook(to.id);
  };
  const judge = (judgement: 'good' | 'to the bench') => {
    if (!item) return;
    const taken = item.judgement === judgement;
    acts.judge([item.id], taken ? null : judgement);
    if (!taken) go(1);
  };
  const keys = useRef<(event: KeyboardEvent) => void>(undefined);
  keys.current = (event) => {
    if (event.ctrlKey || event.metaKey || event.altKey || document.querySelector('.modal')) return;
    if (event.target instanceof Element && event.target.closest('input, select, textarea')) return;
    const act = {
      ...{ ArrowRight: () => go(1), ArrowLeft: () => go(-1) },
      ...{ ArrowDown: () => setPlace(place + 1), ArrowUp: () => setPlace(place - 1) },
      ...{ g: () => judge('good'), b: () => judge('to the bench'), Escape: onClose },
    }[event.key.length === 1 ? event.key.toLowerCase() : event.key];
    if (!act) return;
    event.preventDefault();
    act();
  };
  useEffect(() => {
    const hear = (event: KeyboardEvent) => keys.current?.(event);
    addEventListener('keydown', hear);
    return () => removeEventListener('keydown', hear);
  }, []);
  if (!item) return <p className="soft">{say`There is nothing to look at.`}</p>;
  return (
    <section className="look-through" aria-label={say`One by one`}>
      <header>
        <span className="figure">
          {index + 1} / {items.length}
        </span>
        <b title={item.fileName}>{item.fileName}</b>
        <span className="soft">{aboutWords(item)}</span>
        {item.facts.verdict && (
          <span>
            <VerdictMark tone={item.facts.verdict.tone} /> {item.facts.verdict.short}
          </span>
        )}
        <span className="acts">
          <Button
            size="sm"
            variant={item.judgement === 'good' ? 'primary' : 'outline-primary'}
            aria-pressed={item.judgement === 'good'}
            onClick={() => judge('good')}
          >
            {say`Good`} <kbd>G</kbd>
          </Button>
          <Button
            size="sm"
            variant={item.judgement === 'to the bench' ? 'primary' : 'outline-primary'}
            aria-pressed={item.judgement === 'to the bench'}
            onClick={() => judge('to the bench')}
          >
            {say`To the bench`} <kbd>B</kbd>
          </Button>
          <Link prefetch={false} className="btn btn-quiet btn-sm" href={benchAddress(item)}>
            {say`Open it`}
          </Link>
        </span>
      </header>
      <Both key={item.piece} item={item} place={place} />
      <footer>
        <Button
          size="sm"
          variant="quiet"
          aria-label={say`The one before`}
          disabled={index === 0}
          onClick={() => go(-1)}
        >
          <ArrowLeft size={15} aria-hidden />
        </Button>
        <ol className="pictures-strip" aria-label={say`Pictures`}>
          {items.slice(Math.max(0, index - BESIDE), index + BESIDE + 1).map((one) => (
            <li key={one.id}>
              <button
                type="button"
                aria-pressed={one.id === item.id}
                aria-label={one.fileName}
                title={one.fileName}
                data-judgement={one.judgement}
                onClick={() => onLook(one.id)}
              >
                <img src={thumbnailOf(one.facts.digest, one.facts.page)} alt="" />
              </button>
            </li>
          ))}
        </ol>
        <Button
          size="sm"
          variant="quiet"
          aria-label={say`The next one`}
          disabled={index === items.length - 1}
          onClick={() => go(1)}
        >
          <ArrowRight size={15} aria-hidden />
        </Button>
      </footer>
    </section>
  );
}

const aboutWords = ({ facts, state }: BatchItem): string =>
  [
    facts.trial,
    facts.print,
    say`${formatPpi(facts.ppi)} ppi`,
    fileWords(facts.file),
    ITEM_STATES[state],
  ].join(' · ');

/** A picture as it came and as it will print, at the same place. */
function Both({ item, place }: { item: BatchItem; place: number }) {
  const { data: piece, error } = useQuery(pieceQuery(item));
  const { data: models } = useModels();
  if (error) return <p className="trouble">{error.message}</p>;
  if (!piece || !models) return <div className="both" aria-busy />;
  return <Sides {...{ piece, place, trial: item.facts.trialId }} models={models} />;
}

function Sides({
  piece: { digest, findings, takenOut, work },
  place,
  trial: trialId,
  models,
}: {
  piece: Piece;
  place: number;
  trial: string;
  models: Models;
}) {
  const picture = useMemo((): Pictured => {
    const original = originalOf(digest, findings, takenOut);
    const trial = trialOf(work, trialId);
    const resolved = resolveRecipe(original, work, trial, models);
    return { digest, findings, original, work, trial, resolved };
  }, [digest, findings, takenOut, work, trialId, models]);
  const places = usePlaces(picture);
  const shown = places?.[((place % places.length) + places.length) % places.length];
  const { resolved } = picture;
  const layers = useMemo(
    () =>
      [false, true].map((treated) =>
        resolved.ok
          ? resultLayer(paneOriginal(digest, findings), resolved.recipe, 1, treated)
          : null,
      ),
    [digest, findings, resolved],
  );
  const frame = useRef<HTMLDivElement>(null);
  const side = useSide(frame);
  const names = [say`As it came, at the print’s size`, say`As it will print`];
  return (
    <>
      <div className="both" ref={frame}>
        {side &&
          layers.map((layer, i) => (
            <Spot
              key={i}
              {...{ layer, side }}
              name={names[i]!}
              centre={shown?.centre ?? null}
              trouble={resolved.ok ? null : resolved.reason}
            />
          ))}
      </div>
      <p className="soft place">
        {shown?.words}
        {places && places.length > 1 && (
          <span>
            <kbd>↑</kbd> <kbd>↓</kbd> {say`other places of it, ${places.length} in all`}
          </span>
        )}
      </p>
    </>
  );
}

/** The size that each of two spots has in a frame. */
function useSide(frame: React.RefObject<HTMLElement | null>) {
  const [side, setSide] = useState<{ width: number; height: number } | null>(null);
  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    const measure = () =>
      setSide({
        width: Math.floor((element.clientWidth - GAP) / 2),
        height: Math.floor(element.clientHeight),
      });
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    measure();
    return () => observer.disconnect();
  }, [frame]);
  return side && side.width > 0 && side.height > 0 ? side : null;
}

const GAP = 4;
