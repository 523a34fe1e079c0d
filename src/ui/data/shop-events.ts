'use client';

import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { z } from 'zod';
import type { JobView } from '@/core/shop/job';
import { ProcessNews } from '@/core/shop/processes';
import { SendingNews } from '@/core/shop/sending';
import { artifactOf, TaskEvent, titleOf, type Task } from '@/core/shop/task';
import { say } from '@/core/words/say';
import { api, artifactAddress } from './api';
import { BatchNews } from '@/core/batch/batch';
import { hearOfBatches } from './batches';
import { hearOfSending } from './devices';
import { tell } from './notices';
import { hearOfProcesses, processStore } from './processes';
import { hearOfSettings } from './settings';
import { keys, putTask } from './queries';
import { followShop, type ShopNews } from './shop-stream';

/** Listens to the shop for as long as the page is open: to its tasks, its jobs, and how it is itself. */
export function useShopEvents(): void {
  const client = useQueryClient();
  useEffect(() => {
    const seen = new Map<string, TaskEvent>();
    const again = (...queries: (readonly unknown[])[]) => {
      for (const queryKey of queries) void client.invalidateQueries({ queryKey });
    };
    const hear: Record<ShopNews['name'], (data: string) => void> = {
      task(data) {
        const now = TaskEvent.parse(JSON.parse(data));
        const before = seen.get(now.id);
        seen.set(now.id, now);
        const known = client
          .getQueryData<Task[]>(keys.openTasks)
          ?.find((task) => task.id === now.id && task.state === now.state);
        if (known) putTask(client, { ...known, ...now });
        else void learn(client, now, before);
      },
      sending: (data) => hearOfSending(client, SendingNews.parse(JSON.parse(data))),
      job(data) {
        const id = z.coerce.number().parse(data);
        // Others' jobs change all day: what stands beside a picture is asked for again with its own job alone.
        const { pieces = [] } = client.getQueryData<JobView>(keys.job(id)) ?? {};
        again(
          keys.job(id),
          keys.jobs,
          keys.batches,
          ...pieces.map((piece) => ['comparing', piece.id]),
        );
      },
      devices: () => again(keys.devices, keys.lists),
      settings: (data) => hearOfSettings(client, z.coerce.number().parse(data)),
      batches: (data) => hearOfBatches(client, BatchNews.parse(JSON.parse(data))),
      processes: (data) => hearOfProcesses(ProcessNews.nullable().parse(JSON.parse(data))),
      open() {
        processStore.setState({ answers: true });
        // What ended while the line was down is learnt by asking again.
        again(keys.openTasks, ['job'], keys.jobs, ['sendings'], keys.batches);
      },
      lost: () => processStore.setState({ answers: false }),
    };
    return followShop(({ name, data }) => hear[name](data));
  }, [client]);
}

/** Asks for a task that began, ended, or was not known yet. */
async function learn(client: QueryClient, now: TaskEvent, before?: TaskEvent): Promise<void> {
  const task = await api.readTask(now.id).catch(() => null);
  if (!task) return;
  putTask(client, task);
  if (task.kind === 'sheet') {
    void client.invalidateQueries({ queryKey: ['comparing', task.pieceId] });
  }
  const { batch = null } = task.kind === 'render' ? task.payload : {};
  if (batch !== null) void client.invalidateQueries({ queryKey: keys.batches });
  if (task.kind === 'render' && task.state === 'done') {
    void client.invalidateQueries({ queryKey: ['throughput'] });
  }
  // What a batch makes is told with all of it.
  if (batch !== null) return;
  if (before?.state === 'running' && task.state === 'done') {
    const made = task.kind === 'sheet' && artifactOf(task, 'result');
    tell(
      made
        ? say`${task.jobTitle}: the comparison sheet is ready.`
        : say`${task.jobTitle}: ${titleOf(task)} is ready in Output.`,
      'good',
      made
        ? { words: say`Open it`, act: () => open(artifactAddress(task.id, 'result'), '_blank') }
        : undefined,
    );
    // The job may be farther on its way by it.
    if (task.kind === 'proof') void client.invalidateQueries({ queryKey: keys.job(task.jobId) });
  }
  if (before && before.state !== task.state && task.state === 'failed') {
    tell(`${task.jobTitle}: ${task.error ?? say`the run failed.`}`, 'trouble');
  }
}
