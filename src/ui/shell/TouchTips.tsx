import { useEffect, useState } from 'react';

/** A finger that rests so long asks what hovering would show, in milliseconds. */
const HOLD_MS = 450;
/** One that goes farther than this, in CSS pixels, does something else. */
const STILL = 8;
/** How long it is read after the finger was lifted, in milliseconds. */
const READ_MS = 2500;

interface Tip {
  words: string;
  x: number;
  y: number;
}

/** On a tablet: what a mouse is told by hovering, a finger is told by pressing long. That press does nothing else. */
export function TouchTips() {
  const [tip, setTip] = useState<Tip | null>(null);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    let away: ReturnType<typeof setTimeout> | undefined;
    let from = { x: 0, y: 0 };
    let told = false;
    const down = (event: PointerEvent) => {
      if (event.pointerType !== 'touch' || !event.isPrimary) return;
      clearTimeout(away);
      setTip(null);
      told = false;
      from = { x: event.clientX, y: event.clientY };
      const titled = event.target instanceof Element && event.target.closest('[title]');
      const words = titled && titled.getAttribute('title');
      if (!titled || !words) return;
      timer = setTimeout(() => {
        const { left, width, bottom } = titled.getBoundingClientRect();
        told = true;
        setTip({ words, x: left + width / 2, y: bottom });
      }, HOLD_MS);
    };
    const move = ({ clientX, clientY }: PointerEvent) => {
      if (Math.hypot(clientX - from.x, clientY - from.y) > STILL) clearTimeout(timer);
    };
    const up = () => {
      clearTimeout(timer);
      // Each of several fingers is lifted by itself.
      clearTimeout(away);
      away = setTimeout(() => setTip(null), READ_MS);
    };
    const click = (event: MouseEvent) => {
      if (!told) return;
      told = false;
      event.preventDefault();
      event.stopPropagation();
    };
    const menu = (event: Event) => told && event.preventDefault();
    addEventListener('pointerdown', down);
    addEventListener('pointermove', move);
    addEventListener('pointerup', up);
    addEventListener('pointercancel', up);
    addEventListener('click', click, true);
    addEventListener('contextmenu', menu);
    return () => {
      clearTimeout(timer);
      clearTimeout(away);
      removeEventListener('pointerdown', down);
      removeEventListener('pointermove', move);
      removeEventListener('pointerup', up);
      removeEventListener('pointercancel', up);
      removeEventListener('click', click, true);
      removeEventListener('contextmenu', menu);
    };
  }, []);
  if (!tip) return null;
  const left = Math.min(innerWidth - 150, Math.max(150, tip.x));
  const over = tip.y > innerHeight - 80;
  return (
    <div className="touch-tip" role="tooltip" style={{ left, top: over ? tip.y - 84 : tip.y + 8 }}>
      {tip.words}
    </div>
  );
}
