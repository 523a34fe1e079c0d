import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { factorOf } from '@/core/measure/plan';
import { framePlaces } from '@/core/frame/places';
import type { Size } from '@/core/raster/region';
import { framingOf } from '@/core/recipe/plan';
import { sheetOnFrame } from '@/core/recipe/views';
import { usePicked } from '../../parts/use-picked';
import { paneOriginal } from '../preview-original';
import { useOpen } from '../ticket/open';
import type { WorkBench } from '../use-work';
import { LookBar } from './LookBar';
import { modeView } from './modes';
import { useCompared, useOnOriginal } from './modes/compared/use-compared';
import { COMPARING, useLooking, useMode, type Comparing, type Mode } from './modes/mode';
import { Overlays } from './overlays/Overlays';
import { Readout } from './overlays/Readout';
import { resultScale } from './panes/layers';
import { PaperMap } from './panes/PaperMap';
import { workedOn } from './tools';
import { useTool } from './tools/tool';
import { WorkedOn } from './tools/WorkedOn';
import { useNavigation } from './use-navigation';
import { look, useViewport } from './viewport';

/** The picture, as large as can be, in the way that it is looked at. */
export function Stage({ bench }: { bench: WorkBench }) {
  const { resolved, job } = bench;
  const frame = useRef<HTMLDivElement>(null);
  const view = useDeviceSize(frame);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [shown, setShown] = useState(false);
  const onBusy = useCallback((computing: boolean) => {
    setBusy(computing);
    if (!computing) setShown(true);
  }, []);
  const { digest, findings } = job.piece;
  const original = useMemo(() => paneOriginal(digest, findings), [digest, findings]);

  const worked = useWorkedOn(bench);
  const holding = useLooking((looking) => looking.holding);
  const mode = whileHolding(whileWorking(useMode(), worked !== null), holding);
  const { Scene, pane: paneOf, others = onlyOne, moves, overlaid } = modeView(mode);
  const laid = usePicked(useLooking, 'together', 'stacked');
  const { together, stacked } = laid;
  const pane = useMemo(
    () => paneOf(view, { together, stacked }),
    [paneOf, view, together, stacked],
  );

  const { zoom } = usePicked(useViewport, 'zoom');
  const factor = resolved.ok ? factorOf(resolved.plan) : 1;
  const scale = resolved.ok ? resultScale(zoom, resolved.recipe, factor, pane) : 1;
  const onOriginal = useOnOriginal(zoom.of === 'original');
  const looked = { scale, onOriginal, alone: worked !== null, others: others(laid) };
  const compared = useCompared(bench, original, pane, looked);
  const navigation = useNavigation(
    frame,
    resolved.ok ? resolved.recipe.target : null,
    scale,
    factor,
  );
  useLookAt(bench);

  const layer = compared?.after.layer;
  const exact = compared
    ? [compared.after, ...compared.beside].every((side) => side.layer.exact)
    : false;
  return (
    <section className="stage" aria-label="Stage">
      <div
        className="view"
        ref={frame}
        tabIndex={0}
        aria-label="Picture: drag or arrow keys to move, wheel or + and - to zoom"
        {...navigation}
      >
        {resolved.ok && compared && layer && (
          <>
            <Scene
              {...{ mode, bench, resolved, original, compared, frame, view, scale, shown, onBusy }}
              onTrouble={setTrouble}
            />
            {worked && overlaid && !holding && (
              <WorkedOn {...{ bench, worked, layer }} view={pane} />
            )}
            {overlaid && <Overlays {...{ bench, layer }} view={pane} />}
            {moves && <Readout {...{ frame, scale }} recipe={resolved.recipe} view={pane} />}
            {moves && <PaperMap {...{ original, scale }} recipe={resolved.recipe} view={pane} />}
          </>
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
      <LookBar {...{ bench, busy, scale }} mode={mode} exact={exact} />
    </section>
  );
}

const onlyOne = (): number => 1;

/** What is worked on just now, if anything. */
function useWorkedOn({ work, trial }: WorkBench) {
  const tool = useTool((state) => state.tool);
  const open = usePicked(useOpen, 'section', 'step');
  return workedOn(work, trial, tool, open);
}

/** While something is painted or mended the result alone is looked at. */
const whileWorking = (mode: Mode, working: boolean): Mode =>
  working && COMPARING.some((way) => way === mode.way) ? { way: 'result alone' } : mode;

/** Where several panes lie over or beside each other in ways of their own, what is held shows alone. */
const whileHolding = (mode: Mode, holding: boolean): Mode =>
  holding && HELD_ALONE.some((way) => way === mode.way) ? { way: 'result alone' } : mode;
const HELD_ALONE: readonly Comparing[] = ['grid', 'window', 'blink', 'difference'];

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
