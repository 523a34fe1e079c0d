'use client';

import { useRouter } from 'next/navigation';
import { useId, useState } from 'react';
import { Button } from 'react-bootstrap';
import { typedLength } from '@/core/measure/typed';
import { OrderAgain } from '@/core/shop/order-again';
import { NO_LISTS, useLists, useOrderAgain } from '../data/queries';
import { say } from '@/core/words/say';

/** Orders a job again: as last time, or at another width. */
export function OrderAgainForm({ jobId }: { jobId: number }) {
  const router = useRouter();
  const again = useOrderAgain(jobId);
  const { data: { unit } = NO_LISTS } = useLists();
  const [text, setText] = useState('');
  const id = useId();
  const typed = text.trim() === '' ? null : typedLength(text, unit);
  const order = OrderAgain.safeParse({ width: typed?.ok ? typed.value : null });
  const wrong =
    typed?.ok === false ? typed.why : order.success ? null : say`A width on paper, as 200 cm.`;
  return (
    <form
      className="order-again no-print"
      onSubmit={(event) => {
        event.preventDefault();
        if (wrong || !order.success) return;
        again.mutate(order.data, { onSuccess: (job) => router.push(`/bench/${job.id}`) });
      }}
    >
      <label htmlFor={id}>{say`Order again, as last time, at`}</label>
      <input
        id={id}
        className="form-control form-control-sm figure"
        placeholder={say`the same width`}
        value={text}
        aria-describedby={`${id}-words`}
        aria-invalid={wrong !== null}
        onChange={(event) => setText(event.target.value)}
      />
      <Button
        type="submit"
        variant="outline-primary"
        size="sm"
        disabled={wrong !== null || again.isPending}
      >
        {say`Begin the job`}
      </Button>
      <span id={`${id}-words`} className={wrong ? 'trouble' : 'soft'}>
        {wrong ?? say`The same originals, zones and trials; the height follows.`}
      </span>
    </form>
  );
}
