import type { TaskEvent } from '@/core/shop/task';
import { tasksChangedSince } from '@/server/db/tasks';
import { route } from '@/server/http/route';

export const dynamic = 'force-dynamic';

/** How often the database is asked for news, in milliseconds. */
const LOOK_MS = 300;
/** A comment now and then, so that nothing between closes a quiet line. */
const BREATH_MS = 15_000;

/**
 * What changes of tasks, as server-sent events: which, its state and share. Their process writes it
 * to the database, which is where this looks; whoever hears of a task it doesn't know asks for it.
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
      const tell = (tasks: TaskEvent[]) => {
        for (const task of tasks) {
          const text = JSON.stringify(task);
          if (told.get(task.id) === text) continue;
          told.set(task.id, text);
          controller.enqueue(encoder.encode(`event: task\ndata: ${text}\n\n`));
        }
      };
      let since = Date.now();
      let breath = since;
      controller.enqueue(encoder.encode(': hello\n\n'));
      while (!gone && !request.signal.aborted) {
        await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
        if (gone || request.signal.aborted) break;
        const now = Date.now();
        tell(await tasksChangedSince(db, since));
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
