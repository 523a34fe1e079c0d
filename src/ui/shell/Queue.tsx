import { ArrowDown, ArrowUp, X } from 'lucide-react';
import Link from 'next/link';
import { Dropdown } from 'react-bootstrap';
import { titleOf, type Task } from '@/core/shop/task';
import { useCancelTask, useMoveTask, useOpenTasks, useThroughput } from '../data/queries';
import { estimateWords, expectedSeconds, timeLeft } from '../parts/time-left';
import { Progress } from '../parts/Progress';
import { say } from '@/core/words/say';

/** What is being rendered just now, wherever in the shop, and what waits behind it. */
export function Queue() {
  const tasks = useOpenTasks();
  const cancel = useCancelTask();
  const move = useMoveTask();
  const { data: throughput } = useThroughput();
  const [first] = tasks;
  if (!first) return null;
  const waiting = tasks.filter(({ state }) => state === 'queued');
  const words = (task: Task): string =>
    task.state === 'running'
      ? timeLeft(task, throughput)
      : throughput
        ? say`waits, ${estimateWords(expectedSeconds(task, throughput))}`
        : say`waits`;
  return (
    <Dropdown align="end" className="queue">
      <Dropdown.Toggle bsPrefix="under-way" aria-label={say`Runs under way`}>
        <span>
          {first.jobTitle}, {titleOf(first)}
          {tasks.length > 1 && say` and ${tasks.length - 1} more`}
        </span>
        <Progress share={first.progress} label={say`Progress of the run`} />
        <span className="figure">
          {first.state === 'queued' ? say`waiting` : timeLeft(first, throughput)}
        </span>
      </Dropdown.Toggle>
      <Dropdown.Menu>
        {tasks.map((task) => {
          const at = waiting.indexOf(task);
          return (
            <div className="queued" key={task.id} role="group" aria-label={task.jobTitle}>
              <Link prefetch={false} href={`/bench/${task.jobId}`}>
                <b>{task.jobTitle}</b>
                <span className="soft">{titleOf(task)}</span>
              </Link>
              <span className="figure">{words(task)}</span>
              <button
                type="button"
                aria-label={say`Earlier`}
                disabled={at < 1}
                onClick={() => move.mutate({ id: task.id, before: waiting[at - 1]!.id })}
              >
                <ArrowUp size={14} />
              </button>
              <button
                type="button"
                aria-label={say`Later`}
                disabled={at < 0 || at === waiting.length - 1}
                onClick={() => move.mutate({ id: task.id, before: waiting[at + 2]?.id ?? null })}
              >
                <ArrowDown size={14} />
              </button>
              <button type="button" aria-label={say`Cancel`} onClick={() => cancel.mutate(task.id)}>
                <X size={14} />
              </button>
            </div>
          );
        })}
      </Dropdown.Menu>
    </Dropdown>
  );
}
