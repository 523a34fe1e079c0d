import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Size } from '@/core/raster/region';
import { formatNumber, formatPpi } from '@/core/measure/format';
import { factorOf, leastPpi } from '@/core/measure/plan';
import { methodNotes } from '@/core/steps/enlarge/methods';
import { stepOf, type Trial } from '@/core/treatment/recipe';
import type { WorkBench } from '../use-work';
import { TrimLine } from './TrimLine';
import { useView, type View } from '../view-store';
import { Divider } from './Divider';
import { framePlaces } from '@/core/frame/places';
import { framingOf, type Settled } from '@/core/treatment/settle';
import { comparedWith } from '../ticket/Trials';
import { paneOriginal } from '../preview-original';
import { originalLayer, resultLayer, resultScale, sheetOnFrame, type Layer } from './layers';
import { SpotTool } from './tools/SpotTool';
import { ZonePainter } from './tools/ZonePainter';
import { Arrangement, arranges } from './Arrangement';
import { CellMap } from './CellMap';
import { MapOverlay } from './MapOverlay';
import { placesOf } from './places';
import { LookBar } from './LookBar';
import { SelfTest } from './SelfTest';
import { useInventions } from './use-inventions';
import { TryGrid } from './TryGrid';
import { PaperMap } from './PaperMap';
import { Pane } from './Pane';
import { useNavigation } from './use-navigation';

/** The picture, as large as can be, beside or under its original. */
export function Stage({ bench }: { bench: WorkBench }) {
  const view = useView();
  const { settled, trial, job } = bench;
  const frame = useRef<HTMLDivElement>(null);
  const size = useDeviceSize(frame);
  const [trouble, setTrouble] = useState<string | null>(null);
  const tool = toolOf(bench, view);
  // While something is painted or mended the result alone is looked at.
  const compare = tool ? 'result alone' : view.compare;
  const sideBySide = compare === 'side by side';
  const pane = useMemo<Size>(
    () => (sideBySide ? { width: Math.floor(size.width / 2) - 1, height: size.height } : size),
    [sideBySide, size],
  );
  const { digest, findings } = job.piece;
  const original = useMemo(() => paneOriginal(digest, findings), [digest, findings]);

  const factor = settled.ok ? factorOf(settled.plan) : 1;
  const scale = settled.ok ? resultScale(view.zoom, settled.recipe, factor, pane) : 1;
  // On the original's grid, with Clean open, the stage shows what cleaning does before anything else.
  const onOriginal =
    view.section === 'clean' && (view.zoom.of === 'original' || view.removed !== 'off');
  const removing = onOriginal && view.removed !== 'off';
  const other = removing || tool ? null : comparedWith(bench.work, trial, view.against);
  const settledOther = useOther(bench, other);
  const beside = settledOther?.ok ? settledOther : null;
  const layers = useMemo<{ before: Layer; after: Layer } | null>(() => {
    if (!settled.ok || pane.width < 2) return null;
    const layer = onOriginal ? originalLayer : resultLayer;
    const on = onOriginal ? scale * factor : scale;
    const after = layer(settled.recipe, on, true);
    const before = beside
      ? layer(beside.recipe, on * (settled.recipe.target.width / beside.recipe.target.width), true)
      : layer(settled.recipe, on, false);
    if (!removing) return { before, after };
    const caption = `what cleaning took, × ${view.removed}`;
    const against = { recipe: before.recipe, gain: Number(view.removed) };
    return { before, after: { ...after, against, caption } };
  }, [settled, beside, pane, onOriginal, scale, factor, removing, view.removed]);

  const navigation = useNavigation(frame, settled.ok ? settled.recipe.target : null, scale, factor);
  useLookAt(bench);
  const [busy, setBusy] = useState(false);
  /** Until the first result is there, the original alone is shown. */
  const [shown, setShown] = useState(false);
  const onBusy = useCallback((computing: boolean) => {
    setBusy(computing);
    if (!computing) setShown(true);
  }, []);

  const lines = (layer: Layer) =>
    settled.ok && <TrimLine plan={settled.plan} layer={layer} view={pane} centre={view.centre} />;
  const before = layers && (
    <>
      <Pane
        original={original}
        layer={layers.before}
        centre={view.centre}
        view={pane}
        name={other?.name ?? 'The original'}
        onTrouble={setTrouble}
        onBusy={ignore}
      />
      {lines(layers.before)}
    </>
  );
  const after = layers && (
    <>
      <Pane
        original={original}
        layer={layers.after}
        centre={view.centre}
        view={pane}
        name={trial.name}
        onTrouble={setTrouble}
        onBusy={onBusy}
      />
      {lines(layers.after)}
    </>
  );
  // Findings are of the original.
  const holding = view.holding || !shown || (view.section === 'original' && view.map !== null);
  const cut = compare === 'wipe' && !holding;

  const { vector } = bench.original;
  const made = vector ? 'drawn fresh' : trial.pixels === 'kept' ? 'its own pixels' : madeBy(trial);
  const captionOfOriginal =
    settled.ok && layers && beside && other ? (
      <div className="caption left">
        <b>{other.name}</b>
        {layers.before.caption || madeBy(other)}
        <span className="figure-sm">{sizeWords(beside)}</span>
      </div>
    ) : (
      settled.ok &&
      layers && (
        <div className="caption left">
          <b>Original</b>
          {vector ? 'as drawn' : layers.before.caption}
          <span className="figure-sm">
            {vector ? 'shapes' : `${formatPpi(leastPpi(settled.plan))} ppi`}
          </span>
        </div>
      )
    );
  const captionOfResult = settled.ok && layers && (
    <div className={`caption ${compare === 'result alone' ? 'left' : 'right'}`}>
      <b>{trial.name}</b>
      {layers.after.caption || made}
      <span className="figure-sm">
        {onOriginal ? `${findings.width} × ${findings.height}` : sizeWords(settled)}
      </span>
    </div>
  );

  const arrangement = settled.ok && pane.width > 1 && (
    <Arrangement
      bench={bench}
      settled={settled}
      original={original}
      view={size}
      onTrouble={setTrouble}
    />
  );
  const arranged = arranges(view) ? arrangement : null;
  const trying = view.trying && view.section === 'enlarge' && settled.ok;
  const testing = view.testing && view.section === 'enlarge' && settled.ok;
  const mapped = view.section === 'original' && view.map !== null && !arranged;
  const places = layers && mapped ? placesOf(bench, layers.after, pane, view.centre) : null;

  const invented = useInventions(bench).inventions?.found ?? null;
  const shares = useMemo(() => [...(invented?.levels ?? [])].map(shareOf), [invented]);
  const overlaid =
    view.inventions && view.section === 'enlarge' && !arranged && !trying && !testing;
  const inventedPlaces =
    invented && layers && overlaid ? placesOf(bench, layers.after, pane, view.centre) : null;

  return (
    <section className="stage" aria-label="Stage">
      <div
        className="view"
        ref={frame}
        tabIndex={0}
        aria-label="Picture: drag or arrow keys to move, wheel or + and - to zoom"
        {...navigation}
      >
        {arranged ? (
          arranged
        ) : trying && pane.width > 1 ? (
          <TryGrid {...{ bench, original, scale }} view={size} onTrouble={setTrouble} />
        ) : testing ? (
          <SelfTest bench={bench} />
        ) : sideBySide ? (
          <>
            <div className="pane" style={{ right: '50%', marginRight: 1 }}>
              {before}
              {captionOfOriginal}
            </div>
            <div className="pane" style={{ left: '50%', marginLeft: 1, opacity: holding ? 0 : 1 }}>
              {after}
              {captionOfResult}
            </div>
          </>
        ) : (
          <>
            {/* The original comes first, so that its pixels are asked for first; it lies on top. */}
            {(compare === 'wipe' || holding) && (
              <div
                className="pane on-top"
                style={cut ? { clipPath: `inset(0 ${(1 - view.wipe) * 100}% 0 0)` } : undefined}
              >
                {before}
              </div>
            )}
            <div className="pane">{after}</div>
            {cut && <Divider frame={frame} />}
            {(compare === 'wipe' || holding) && captionOfOriginal}
            {!holding && captionOfResult}
          </>
        )}
        {tool && layers && !arranged && !holding && pane.width > 1 && (
          <>
            {tool.zone && (
              <ZonePainter
                key={tool.zone.id}
                bench={bench}
                original={original}
                layer={layers.after}
                view={pane}
                zone={tool.zone}
              />
            )}
            {tool.retouch && (
              <SpotTool bench={bench} layer={layers.after} view={pane} {...tool.retouch} />
            )}
          </>
        )}
        {places && view.map && (
          <MapOverlay
            digest={digest}
            page={findings.page}
            map={view.map}
            place={places.original}
            paper={places.paper}
          />
        )}
        {inventedPlaces && invented && (
          <CellMap
            columns={invented.columns}
            rows={invented.rows}
            shares={shares}
            place={inventedPlaces.original}
            paper={inventedPlaces.paper}
            words={{ title: 'Invented', least: 'by next to nothing', most: 'off by 20 levels' }}
          />
        )}
        {settled.ok &&
          layers &&
          !arranged &&
          !testing &&
          scale * settled.recipe.target.width > pane.width * 1.02 && (
            <PaperMap
              original={original}
              recipe={settled.recipe}
              share={{
                x: pane.width / (scale * settled.recipe.target.width),
                y: pane.height / (scale * settled.recipe.target.height),
              }}
            />
          )}
        {!settled.ok && (
          <p className="stage-message trouble" role="alert">
            {settled.reason}
          </p>
        )}
        {trouble && (
          <p className="stage-message trouble" role="alert">
            {trouble}
          </p>
        )}
      </div>
      <LookBar
        bench={bench}
        busy={busy}
        vector={vector}
        exact={layers?.after.exact ?? false}
        scaleText={`${formatNumber(scale * 100, scale < 0.1 ? 1 : 0)} %`}
      />
    </section>
  );
}

/** Expected to be off by so much is as bad as can be; what is below two levels is not seen. */
const shareOf = (levels: number): number => Math.min(1, Math.max(0, (levels - 2) / 18));

const ignore = () => {};

const madeBy = (trial: Trial): string =>
  methodNotes[stepOf(trial.treatment, 'enlarge')!.settings.method].title.toLowerCase();

const sizeWords = ({ recipe, plan }: Extract<Settled, { ok: true }>): string =>
  `${recipe.target.width} × ${recipe.target.height} · ${formatPpi(plan.ppiAfter)} ppi`;

/** What another trial comes to, settled anew only when it or what it rests on changes. */
function useOther({ settle, settled }: WorkBench, other: Trial | null): Settled | null {
  // `settled` changes whenever what both rest on does.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  return useMemo(() => other && settle(other), [other, settled]);
}

/** What is done on the picture itself: painting a zone, or mending spots. */
function toolOf({ work, trial }: WorkBench, view: View) {
  if (view.section !== 'clean' && view.section !== 'finish' && view.section !== 'enlarge')
    return null;
  const zone = work.zones.find(({ id }) => id === view.zone);
  if (zone) return { zone, retouch: null };
  const step = view.openStep === null ? undefined : trial.treatment[view.openStep];
  return step?.kind === 'retouch' ? { zone: null, retouch: { step, index: view.openStep! } } : null;
}

/** Brings a place of the original to the middle, once it is asked for. */
function useLookAt({ settled, original, work }: WorkBench): void {
  const { lookAt, set } = useView();
  useEffect(() => {
    if (!lookAt || !settled.ok) return;
    const sheet = sheetOnFrame(settled.recipe);
    const [x, y] = framePlaces(original.size, framingOf(original, work)).toFrame(
      lookAt.x,
      lookAt.y,
    );
    const within = (share: number) => Math.min(1, Math.max(0, share));
    set({
      lookAt: null,
      zoom: { of: 'original', scale: 4 },
      centre: { x: within((x - sheet.x) / sheet.width), y: within((y - sheet.y) / sheet.height) },
    });
  }, [lookAt, settled, original, work, set]);
}

/** An element's size in device pixels, as it changes. */
function useDeviceSize(element: React.RefObject<HTMLElement | null>): Size {
  const [size, setSize] = useState<Size>({ width: 0, height: 0 });
  useEffect(() => {
    const watched = element.current!;
    const observer = new ResizeObserver(() => {
      const ratio = devicePixelRatio || 1;
      setSize({
        width: Math.round(watched.clientWidth * ratio),
        height: Math.round(watched.clientHeight * ratio),
      });
    });
    observer.observe(watched);
    return () => observer.disconnect();
  }, [element]);
  return size;
}
