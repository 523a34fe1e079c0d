import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Size } from '@/core/raster/region';
import { formatNumber, formatPpi } from '@/core/measure/format';
import { factorOf, leastPpi } from '@/core/measure/plan';
import { methodNotes } from '@/core/steps/enlarge/kernels';
import { stepOf } from '@/core/treatment/recipe';
import type { WorkBench } from '../use-work';
import { TrimLine } from './TrimLine';
import { useView } from '../view-store';
import { Divider } from './Divider';
import { originalLayer, resultLayer, resultScale, type Layer } from './layers';
import { Arrangement, arranges } from './Arrangement';
import { MapOverlay } from './MapOverlay';
import { placesOf } from './places';
import { LookBar } from './LookBar';
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
  const sideBySide = view.compare === 'side by side';
  const pane = useMemo<Size>(
    () => (sideBySide ? { width: Math.floor(size.width / 2) - 1, height: size.height } : size),
    [sideBySide, size],
  );
  const { digest, findings } = job.piece;
  const original = useMemo(
    () => ({
      digest,
      page: findings.page,
      depth: findings.bitDepth,
      channels: findings.alpha ? 4 : 3,
      profiled: findings.profile !== null,
    }),
    [digest, findings],
  );

  const factor = settled.ok ? factorOf(settled.plan) : 1;
  const scale = settled.ok ? resultScale(view.zoom, settled.recipe, factor, pane) : 1;
  // On the original's grid, with Clean open, the stage shows what cleaning does before anything else.
  const onOriginal = view.zoom.of === 'original' && view.section === 'clean';
  const layers = useMemo<{ before: Layer; after: Layer } | null>(() => {
    if (!settled.ok || pane.width < 2) return null;
    const layer = onOriginal ? originalLayer : resultLayer;
    const on = onOriginal ? scale * factor : scale;
    return { before: layer(settled.recipe, on, false), after: layer(settled.recipe, on, true) };
  }, [settled, pane, onOriginal, scale, factor]);

  const navigation = useNavigation(frame, settled.ok ? settled.recipe.target : null, scale, factor);
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
        name="The original"
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
  const cut = view.compare === 'wipe' && !holding;

  const { vector } = bench.original;
  const made = vector
    ? 'drawn fresh'
    : trial.pixels === 'kept'
      ? 'its own pixels'
      : methodNotes[stepOf(trial.treatment, 'enlarge')!.settings.method].title.toLowerCase();
  const captionOfOriginal = settled.ok && layers && (
    <div className="caption left">
      <b>Original</b>
      {vector ? 'as drawn' : layers.before.caption}
      <span className="figure-sm">
        {vector ? 'shapes' : `${formatPpi(leastPpi(settled.plan))} ppi`}
      </span>
    </div>
  );
  const captionOfResult = settled.ok && layers && (
    <div className={`caption ${view.compare === 'result alone' ? 'left' : 'right'}`}>
      <b>{trial.name}</b>
      {layers.after.caption || made}
      <span className="figure-sm">
        {onOriginal
          ? `${findings.width} × ${findings.height}`
          : `${settled.recipe.target.width} × ${settled.recipe.target.height} · ${formatPpi(settled.plan.ppiAfter)} ppi`}
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
  const mapped = view.section === 'original' && view.map !== null && !arranged;
  const places = layers && mapped ? placesOf(bench, layers.after, pane, view.centre) : null;

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
            {(view.compare === 'wipe' || holding) && (
              <div
                className="pane on-top"
                style={cut ? { clipPath: `inset(0 ${(1 - view.wipe) * 100}% 0 0)` } : undefined}
              >
                {before}
              </div>
            )}
            <div className="pane">{after}</div>
            {cut && <Divider frame={frame} />}
            {(view.compare === 'wipe' || holding) && captionOfOriginal}
            {!holding && captionOfResult}
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
        {settled.ok &&
          layers &&
          !arranged &&
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
        busy={busy}
        vector={vector}
        exact={layers?.after.exact ?? false}
        scaleText={`${formatNumber(scale * 100, scale < 0.1 ? 1 : 0)} %`}
      />
    </section>
  );
}

const ignore = () => {};

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
