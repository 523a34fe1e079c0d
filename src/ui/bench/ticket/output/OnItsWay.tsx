import { Button } from 'react-bootstrap';
import { isOpen, type Task } from '@/core/shop/task';
import { useCancelTask } from '../../../data/queries';
import { Progress } from '../../../parts/Progress';
import { say } from '@/core/words/say';

/** How far a task is, as long as it is not over, and its cancel. @param label of its progress */
export function OnItsWay({ task, label }: { task: Task; label: string }) {
  const cancel = useCancelTask();
  if (!isOpen(task)) return null;
  return (
    <div className="d-flex gap-2 align-items-center">
      <Progress className="flex-grow-1" share={task.progress} label={label} />
      <Button
        variant="quiet"
        size="sm"
        disabled={cancel.isPending}
        onClick={() => cancel.mutate(task.id)}
      >
        {say`Cancel`}
      </Button>
    </div>
  );
}
