import { batchNews } from '@/server/batch/changes';
import { lastTaskChange, tasksChangedAfter } from '@/server/db/tasks';
import { jobsChangedAfter, lastJobChange } from '@/server/db/job-changes';
import { lastDeviceChange } from '@/server/db/devices';
import { lastSendingChange, sendingsChangedAfter } from '@/server/db/sendings';
import { lastSettingChange } from '@/server/db/settings';
import { route } from '@/server/http/route';
import { lastNews } from '@/server/supervisor/news';

export const dynamic = 'force-dynamic';

/** How often the database is asked for news, in milliseconds. */
const LOOK_MS = 300;
/** A comment now and then, so that nothing between closes a quiet line. */
const BREATH_LOOKS = 50;

/**
 * What changes of tasks and sendings, as server-sent events: which, its state and share; which jobs changed, and that
 * devices, batches and settings did; and how the processes of the shop are.
 * The process of tasks writes to the database, which is where this looks; whoever hears of a task it doesn't know
 * asks for it.
 */
export const GET = route(async ({ db, request }) => {
  const encoder = new TextEncoder();
  let gone = false;
  const stream = new ReadableStream<Uint8Array>({
    cancel() {
      gone = true;
    },
    async start(controller) {
      const send = (text: string) => controller.enqueue(encoder.encode(`${text}\n\n`));
      const told = new Map<string, string>();
      /** Tells something, unless it was the last thing told of it. */
      const tell = (event: string, about: string, value: unknown) => {
        const text = JSON.stringify(value);
        if (told.get(about) === text) return;
        told.set(about, text);
        send(`event: ${event}\ndata: ${text}`);
      };
      send(': hello');
      tell('processes', '', lastNews());
      let known = await lastTaskChange(db);
      let sent = await lastSendingChange(db);
      let changed = await lastJobChange(db);
      for (let look = 1; !gone && !request.signal.aborted; look++) {
        await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
        if (gone || request.signal.aborted) break;
        tell('processes', '', lastNews());
        // A database that is busy is asked again.
        const news = await tasksChangedAfter(db, known).catch(() => null);
        for (const event of news?.events ?? []) tell('task', event.id, event);
        known = news?.last ?? known;
        const sendings = await sendingsChangedAfter(db, sent).catch(() => null);
        for (const one of sendings?.news ?? []) tell('sending', one.key, one);
        sent = sendings?.last ?? sent;
        const jobs = await jobsChangedAfter(db, changed).catch(() => null);
        for (const id of jobs?.jobs ?? []) send(`event: job\ndata: ${id}`);
        changed = jobs?.last ?? changed;
        const devices = await lastDeviceChange(db).catch(() => null);
        if (devices !== null) tell('devices', 'devices', devices);
        const batches = await batchNews(db).catch(() => null);
        if (batches !== null) tell('batches', 'batches', batches);
        const settings = await lastSettingChange(db).catch(() => null);
        if (settings !== null) tell('settings', 'settings', settings);
        if (look % BREATH_LOOKS === 0) send(': still here');
      }
      if (!gone) controller.close();
    },
  });
  return new Response(stream, {
    headers: { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store' },
  });
});
