/** What the shop tells: an event by its name, that the line is open, or that it has been down for a while. */
export interface ShopNews {
  name:
    'task' | 'sending' | 'job' | 'devices' | 'batches' | 'settings' | 'processes' | 'open' | 'lost';
  data: string;
}

const EVENTS = ['task', 'sending', 'job', 'devices', 'batches', 'settings', 'processes'] as const;
const NAME = 'lontano-events';
/** A tab that comes later asks for what the others know. */
const HELLO = 'hello';

/** A line that is down for less than this is not spoken of, in milliseconds. */
const SHORT_MS = 1200;
/** A line that the browser gave up is opened anew after this. */
const ANEW_MS = 3000;

/**
 * Follows the shop in all tabs of a browser by one line: browsers allow a few to a server, and a tab without one could
 * not even ask. One tab holds the line and tells the others; when it closes, the next one takes it up.
 * @returns what ends it
 */
export function followShop(heard: (news: ShopNews) => void): () => void {
  // Served by plain HTTP to another machine, a browser has no locks: then each tab has a line of its own.
  if (!navigator.locks) return listen(heard);
  const others = new BroadcastChannel(NAME);
  const stop = new AbortController();
  /** the last of what tabs that come later have to know; null in tabs that don't hold the line */
  let known: Map<string, ShopNews> | null = null;
  const tellAll = (news: ShopNews) => {
    if (news.name === 'processes') known?.set('processes', news);
    if (news.name === 'open' || news.name === 'lost') known?.set('line', news);
    others.postMessage(news);
    heard(news);
  };
  others.onmessage = ({ data }: MessageEvent<ShopNews | typeof HELLO>) => {
    if (data !== HELLO) return heard(data);
    for (const news of known?.values() ?? []) others.postMessage(news);
  };
  const hold = () => {
    known = new Map();
    return new Promise<void>((resolve) => {
      const close = listen(tellAll);
      stop.signal.addEventListener('abort', () => {
        close();
        resolve();
      });
    });
  };
  // Whoever leaves before its turn has nothing to give back.
  navigator.locks.request(NAME, { signal: stop.signal }, hold).catch(() => {});
  others.postMessage(HELLO);
  return () => {
    stop.abort();
    others.close();
  };
}

/** Opens the line, and opens it again whenever it is given up. */
function listen(heard: (news: ShopNews) => void): () => void {
  let events: EventSource;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const open = () => {
    events = new EventSource('/api/events');
    for (const name of EVENTS) {
      events.addEventListener(name, ({ data }: MessageEvent<string>) => heard({ name, data }));
    }
    events.addEventListener('open', () => {
      clearTimeout(timer);
      timer = undefined;
      heard({ name: 'open', data: '' });
    });
    events.addEventListener('error', () => {
      timer ??= setTimeout(() => {
        heard({ name: 'lost', data: '' });
        timer = setTimeout(() => {
          timer = undefined;
          if (events.readyState === EventSource.CLOSED) open();
        }, ANEW_MS);
      }, SHORT_MS);
    });
  };
  open();
  return () => {
    clearTimeout(timer);
    events.close();
  };
}
