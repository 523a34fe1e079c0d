import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';

/** Enough of a browser to leave a page of it. */
const page = new EventTarget();
let askBeforeLeaving: typeof import('./leaving').askBeforeLeaving;
beforeAll(async () => {
  vi.stubGlobal('window', page);
  vi.stubGlobal('addEventListener', page.addEventListener.bind(page));
  ({ askBeforeLeaving } = await import('./leaving'));
});
afterAll(() => vi.unstubAllGlobals());

/** @returns whether the browser asks first */
const leave = (): boolean => {
  const event = new Event('beforeunload', { cancelable: true });
  page.dispatchEvent(event);
  return event.defaultPrevented;
};

describe('leaving a page', () => {
  it('is not asked about while nothing would be lost', () => {
    const end = askBeforeLeaving(() => false);
    expect(leave()).toBe(false);
    end();
  });

  it('is asked about for as long as anything would', () => {
    let files = 2;
    const ends = [askBeforeLeaving(() => false), askBeforeLeaving(() => files > 0)];
    expect(leave()).toBe(true);
    files = 0;
    expect(leave()).toBe(false);
    files = 1;
    expect(leave()).toBe(true);
    for (const end of ends) end();
    expect(leave()).toBe(false);
  });
});
