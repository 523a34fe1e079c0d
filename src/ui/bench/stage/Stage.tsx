import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { factorOf } from '@/core/measure/plan';
import type { Rect } from '@/core/frame/framing';
import type { Size } from '@/core/raster/region';
import { pixelsToMm, useScreen } from '../../data/screen';
import { usePicked } from '../../parts/use-picked';
import { paneOriginal } from '../preview-original';
import { useOpen } from '../ticket/open';
import type { WorkBench } from '../use-work';
import { useStageBusy } from './busy-store';
import { LookBar } from './LookBar';
import { Lower } from './lower/Lower';
import { modeView } from './modes';
import { useCompared, useOnOriginal } from './modes/compared/use-compared';
import { COMPARING, useLooking, useMode, type Comparing, type Mode } from './modes/mode';
import { useOnPaper, type OnPaper } from './on-paper';
import { Overlays } from './overlays/Overlays';
import { Readout } from './overlays/Readout';
import { resultScale, type Sized } from './panes/layers';
import { PaperMap } from './panes/PaperMap';
import { followPointer } from './pointed';
import { useProbing } from './probe/probe-store';
import { useMarking } from './stops/marking';
import { useFindStops } from './stops/use-stops';
import { Sweeping } from './sweep/Sweeping';
import { useSweepOn } from './sweep/use-sweep';
import { workedOn } from './tools';
import { useTool } from './tools/tool';
import { WorkedOn } from './tools/WorkedOn';
import { useNavigation } from './use-navigation';
import { look, useViewport } from './viewport';
import { say } from '@/core/words/say';

/** The picture, as large as can be, in the way that it is looked at. */
export function Stage({ bench }: { bench: WorkBench }) {
  const { resolved, job } = bench;
  const frame = useRef<HTMLDivElement>(null);
  const view = useDeviceSize(frame);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [shown, setShown] = useState(false);
  const onBusy = useCallback((computing: boolean) => {
    useStageBusy.setState({ busy: computing });
    if (!computing) setShown(true);
  }, []);
  const { digest, findings } = job.piece;
  const original = useMemo(() => paneOriginal(digest, findings), [digest, findings]);

  const worked = useWorkedOn(bench);
  const holding = useLooking((looking) => looking.holding);
  const mode = whileHolding(whileWorking(useMode(), worked !== null), holding);
  const { Scene, pane: paneOf, others = onlyOne, moves, overlaid } = modeView(mode);
  const ruled = useLooking((looking) => looking.ruled);
  const laid = usePicked(useLooking, 'together', 'stacked');
  const { together, stacked } = laid;
  const pane = useMemo(
    () => paneOf(view, { together, stacked }),
    [paneOf, view, together, stacked],
  );

  const { zoom } = usePicked(useViewport, 'zoom');
  const factor = resolved.ok ? factorOf(resolved.plan) : 1;
  const sized = useSized(bench);
  const scale = resolved.ok ? resultScale(zoom, resolved.recipe, factor, pane, sized) : 1;
  const onOriginal = useOnOriginal(zoom.of === 'original');
  const afar = zoom.of === 'distance' && sized ? sized.distance : null;
  const looked = { scale, onOriginal, afar, alone: worked !== null, others: others(laid) };
  const compared = useCompared(bench, original, pane, looked);
  const navigation = useNavigation(
    frame,
    resolved.ok ? resolved.recipe.target : null,
    scale,
    factor,
  );
  const onPaper = useOnPaper(bench);
  useLookAt(bench, onPaper, pane);
  useFindStops(bench, onPaper, compared);
  useMarking(bench, onPaper, { view: pane, scale });
  useProbing(resolved.ok ? resolved.recipe.target : null, { view: pane, scale });
  useEffect(() => followPointer(frame.current!), []);

  const layer = compared?.after.layer;
  const exact = compared
    ? [compared.after, ...compared.beside].every((side) => side.layer.exact)
    : false;
  const seen = useShows(mode, holding);
  const close = moves && scale >= 1 && exact && !onOriginal;
  useSweepOn(bench, { shows: seen, pane });
  return (
    <section className="stage" aria-label={say`Stage`}>
      <div
        className="view"
        ref={frame}
        tabIndex={0}
        data-ruled={ruled && moves}
        aria-label={say`Picture: drag or arrow keys to move, wheel or + and - to zoom`}
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
            {moves && (
              <Readout
                {...{ frame, scale }}
                recipe={resolved.recipe}
                trim={resolved.plan.trim}
                view={pane}
              />
            )}
            <Sweeping {...{ bench, close, pane, scale }} shows={seen} />
            {moves && (
              <PaperMap {...{ bench, original, scale }} recipe={resolved.recipe} view={pane} />
            )}
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
      {compared && <Lower {...{ bench, original, compared, pane, scale }} />}
      <LookBar {...{ bench, scale, mode, exact }} printed={layer?.proof !== undefined} />
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

/** Brings a place of the original to the middle, once it is asked for; or, at the paper's rim, as near to it as paper shows. */
function useLookAt({ resolved }: WorkBench, onPaper: OnPaper | null, pane: Size): void {
  const { lookAt } = usePicked(useViewport, 'lookAt');

  useEffect(() => {
    if (!lookAt || !resolved.ok || !onPaper || pane.width < 2) return;
    const { zoom, inMiddle = false } = lookAt;
    const { recipe, plan } = resolved;
    const at = onPaper.toPaper(lookAt.x, lookAt.y);
    const scale = resultScale(zoom, recipe, factorOf(plan), pane);
    const middle = (share: number, view: number, side: number) => {
      const half = inMiddle ? 0 : Math.min(0.5, view / (2 * scale * side));
      return Math.min(1 - half, Math.max(half, share));
    };
    look({
      ...{ lookAt: null, zoom },
      centre: {
        x: middle(at.x, pane.width, recipe.target.width),
        y: middle(at.y, pane.height, recipe.target.height),
      },
    });
  }, [lookAt, resolved, onPaper, pane]);
}

/** How large prints show on this screen, once it is measured. */
function useSized({ work }: WorkBench): Sized | null {
  const screen = useScreen();
  const perMm = pixelsToMm(screen);
  const { sitting } = screen;
  return useMemo(
    () => (perMm ? { perMm, sitting, distance: work.distance } : null),
    [perMm, sitting, work.distance],
  );
}

/** In which part of its pane the result shows. */
function useShows(mode: Mode, holding: boolean): Rect | null {
  const looking = usePicked(useLooking, 'divider', 'level', 'window', 'inside', 'blinked');
  const { shows = everywhere } = modeView(mode);
  const { divider, level, window: place, inside, blinked } = looking;
  return useMemo(
    () => (holding ? null : shows({ divider, level, window: place, inside, blinked })),
    [shows, holding, divider, level, place, inside, blinked],
  );
}

const EVERYWHERE: Rect = { x: 0, y: 0, width: 1, height: 1 };
const everywhere = (): Rect => EVERYWHERE;

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
