import type { Run } from '@/core/shop/job';
import { openRuns, runsChangedSince } from '@/server/db/runs';
import { route } from '@/server/http/route';

export const dynamic = 'force-dynamic';

/** How often the database is asked for news, in milliseconds. */
const LOOK_MS = 300;
/** A comment now and then, so that nothing between closes a quiet line. */
const BREATH_MS = 15_000;

/**
 * Runs as server-sent events: all that are open at once, then every change. The render process
 * writes them to the database, which is where this looks.
 */
export const GET = route(async ({ db, request }) => {
  const encoder = new TextEncoder();
  let gone = false;
  const stream = new ReadableStream<Uint8Array>({
    cancel() {
      gone = true;
    },
    async start(controller) {
      const told = new Map<string, string>();
      const tell = (runs: Run[]) => {
        for (const run of runs) {
          const text = JSON.stringify(run);
          if (told.get(run.id) === text) continue;
          told.set(run.id, text);
          controller.enqueue(encoder.encode(`event: run\ndata: ${text}\n\n`));
        }
      };
      let since = Date.now();
      let breath = since;
      controller.enqueue(encoder.encode(': hello\n\n'));
      tell(await openRuns(db));
      while (!gone && !request.signal.aborted) {
        await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
        if (gone || request.signal.aborted) break;
        const now = Date.now();
        tell(await runsChangedSince(db, since));
        // A change may be committed a little after the moment it carries.
        since = now - 2000;
        if (now - breath > BREATH_MS) {
          breath = now;
          controller.enqueue(encoder.encode(': still here\n\n'));
        }
      }
      if (!gone) controller.close();
    },
  });
  return new Response(stream, {
    headers: { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store' },
  });
});
