import type { RunEvent } from '@/core/shop/job';
import { runsChangedSince } from '@/server/db/runs';
import { route } from '@/server/http/route';

export const dynamic = 'force-dynamic';

/** How often the database is asked for news, in milliseconds. */
const LOOK_MS = 300;
/** A comment now and then, so that nothing between closes a quiet line. */
const BREATH_MS = 15_000;

/**
 * What changes of runs, as server-sent events: which, its state and share. The render process writes it
 * to the database, which is where this looks; whoever hears of a run it doesn't know asks for it.
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
      const tell = (runs: RunEvent[]) => {
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
