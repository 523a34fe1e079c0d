import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Size } from '@/core/raster/region';
import { formatNumber, formatPpi } from '@/core/measure/format';
import { factorOf, leastPpi } from '@/core/measure/plan';
import { methodNotes } from '@/core/steps/enlarge/methods';
import { stepOf, type Trial } from '@/core/recipe/work';
import type { WorkBench } from '../use-work';
import { TrimLine } from './TrimLine';
import { useView, type View } from '../view-store';
import { Divider } from './Divider';
import { framePlaces } from '@/core/frame/places';
import { framingOf } from '@/core/recipe/plan';
import type { Resolved } from '@/core/recipe/resolve';
import { comparedWith } from '../ticket/Trials';
import { paneOriginal } from '../preview-original';
import { originalLayer, resultLayer, resultScale, type Layer } from './layers';
import { sheetOnFrame } from '@/core/recipe/views';
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
import { usePicked } from '../../parts/use-picked';
import { look, useViewport } from './viewport';

/** The picture, as large as can be, beside or under its original. */
export function Stage({ bench }: { bench: WorkBench }) {
  const view = useView();
  const { zoom, centre } = usePicked(useViewport, 'zoom', 'centre');
  const { resolved, trial, job } = bench;
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

  const factor = resolved.ok ? factorOf(resolved.plan) : 1;
  const scale = resolved.ok ? resultScale(zoom, resolved.recipe, factor, pane) : 1;
  // On the original's grid, with Clean open, the stage shows what cleaning does before anything else.
  const onOriginal = view.section === 'clean' && (zoom.of === 'original' || view.removed !== 'off');
  const removing = onOriginal && view.removed !== 'off';
  const other = removing || tool ? null : comparedWith(bench.work, trial, view.against);
  const otherResolved = useOther(bench, other);
  const beside = otherResolved?.ok ? otherResolved : null;
  const layers = useMemo<{ before: Layer; after: Layer } | null>(() => {
    if (!resolved.ok || pane.width < 2) return null;
    const layer = onOriginal ? originalLayer : resultLayer;
    const on = onOriginal ? scale * factor : scale;
    const after = layer(original, resolved.recipe, on, true);
    const before = beside
      ? layer(
          original,
          beside.recipe,
          on * (resolved.recipe.target.width / beside.recipe.target.width),
          true,
        )
      : layer(original, resolved.recipe, on, false);
    if (!removing) return { before, after };
    const caption = `what cleaning took, × ${view.removed}`;
    const against = { recipe: before.recipe, gain: Number(view.removed) };
    return { before, after: { ...after, against, caption } };
  }, [original, resolved, beside, pane, onOriginal, scale, factor, removing, view.removed]);

  const navigation = useNavigation(
    frame,
    resolved.ok ? resolved.recipe.target : null,
    scale,
    factor,
  );
  useLookAt(bench);
  const [busy, setBusy] = useState(false);
  /** Until the first result is there, the original alone is shown. */
  const [shown, setShown] = useState(false);
  const onBusy = useCallback((computing: boolean) => {
    setBusy(computing);
    if (!computing) setShown(true);
  }, []);

  const lines = (layer: Layer) =>
    resolved.ok && <TrimLine plan={resolved.plan} layer={layer} view={pane} centre={centre} />;
  const before = layers && (
    <>
      <Pane
        layer={layers.before}
        centre={centre}
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
        layer={layers.after}
        centre={centre}
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
    resolved.ok && layers && beside && other ? (
      <div className="caption left">
        <b>{other.name}</b>
        {layers.before.caption || madeBy(other)}
        <span className="figure-sm">{sizeWords(beside)}</span>
      </div>
    ) : (
      resolved.ok &&
      layers && (
        <div className="caption left">
          <b>Original</b>
          {vector ? 'as drawn' : layers.before.caption}
          <span className="figure-sm">
            {vector ? 'shapes' : `${formatPpi(leastPpi(resolved.plan))} ppi`}
          </span>
        </div>
      )
    );
  const captionOfResult = resolved.ok && layers && (
    <div className={`caption ${compare === 'result alone' ? 'left' : 'right'}`}>
      <b>{trial.name}</b>
      {layers.after.caption || made}
      <span className="figure-sm">
        {onOriginal ? `${findings.width} × ${findings.height}` : sizeWords(resolved)}
      </span>
    </div>
  );

  const arrangement = resolved.ok && pane.width > 1 && (
    <Arrangement
      bench={bench}
      resolved={resolved}
      original={original}
      view={size}
      onTrouble={setTrouble}
    />
  );
  const arranged = arranges(view) ? arrangement : null;
  const trying = view.trying && view.section === 'enlarge' && resolved.ok;
  const testing = view.testing && view.section === 'enlarge' && resolved.ok;
  const mapped = view.section === 'original' && view.map !== null && !arranged;
  const places = layers && mapped ? placesOf(bench, layers.after, pane, centre) : null;

  const invented = useInventions(bench).inventions?.found ?? null;
  const shares = useMemo(() => [...(invented?.levels ?? [])].map(shareOf), [invented]);
  const overlaid =
    view.inventions && view.section === 'enlarge' && !arranged && !trying && !testing;
  const inventedPlaces =
    invented && layers && overlaid ? placesOf(bench, layers.after, pane, centre) : null;

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
        {resolved.ok &&
          layers &&
          !arranged &&
          !testing &&
          scale * resolved.recipe.target.width > pane.width * 1.02 && (
            <PaperMap
              original={original}
              recipe={resolved.recipe}
              share={{
                x: pane.width / (scale * resolved.recipe.target.width),
                y: pane.height / (scale * resolved.recipe.target.height),
              }}
            />
          )}
        {!resolved.ok && (
          <p className="stage-message trouble" role="alert">
            {resolved.reason}
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

const sizeWords = ({ recipe, plan }: Extract<Resolved, { ok: true }>): string =>
  `${recipe.target.width} × ${recipe.target.height} · ${formatPpi(plan.ppiAfter)} ppi`;

/** What another trial comes to, resolved anew only when it or what it rests on changes. */
function useOther({ resolve, resolved }: WorkBench, other: Trial | null): Resolved | null {
  // `resolved` changes whenever what both rest on does.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  return useMemo(() => other && resolve(other), [other, resolved]);
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
function useLookAt({ resolved, original, work }: WorkBench): void {
  const { lookAt } = usePicked(useViewport, 'lookAt');

  useEffect(() => {
    if (!lookAt || !resolved.ok) return;
    const sheet = sheetOnFrame(resolved.recipe);
    const [x, y] = framePlaces(original.size, framingOf(original, work)).toFrame(
      lookAt.x,
      lookAt.y,
    );
    const within = (share: number) => Math.min(1, Math.max(0, share));
    look({
      lookAt: null,
      zoom: { of: 'original', scale: 4 },
      centre: { x: within((x - sheet.x) / sheet.width), y: within((y - sheet.y) / sheet.height) },
    });
  }, [lookAt, resolved, original, work]);
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
