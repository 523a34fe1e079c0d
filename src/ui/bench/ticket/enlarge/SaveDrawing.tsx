import { Download } from 'lucide-react';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import slugify from '@sindresorhus/slugify';
import type { DrawnAs } from '@/core/render/drawing';
import { isTraced } from '@/core/recipe/views';
import { ask, PRIORITY } from '@/preview/client';
import { wholeOriginal } from '../../preview-original';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

const TYPES: Record<DrawnAs, string> = { svg: 'image/svg+xml', pdf: 'application/pdf' };

/** Saves what a traced picture is drawn from, for whoever goes on with shapes. */
export function SaveDrawing({ bench }: { bench: WorkBench }) {
  const { resolved, job } = bench;
  const [state, setState] = useState<'' | 'making' | 'failed'>('');
  if (!resolved.ok || !isTraced(resolved.recipe)) return null;
  const save = async (as: DrawnAs) => {
    setState('making');
    const { recipe } = resolved;
    try {
      const { digest, findings } = job.piece;
      const original = wholeOriginal(digest, findings, recipe);
      const drawing = await ask(
        'drawing',
        { original, recipe, title: job.title, as },
        { priority: PRIORITY.asked, group: 'drawing' },
      );
      const link = document.createElement('a');
      link.href = URL.createObjectURL(new Blob([drawing], { type: TYPES[as] }));
      link.download = `${[job.number, slugify(job.title).slice(0, 40)]
        .filter(Boolean)
        .join('-')}.${as}`;
      link.click();
      setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
      setState('');
    } catch {
      setState('failed');
    }
  };
  return (
    <div className="d-flex flex-wrap gap-2 align-items-center">
      {(['svg', 'pdf'] as const).map((as) => (
        <Button
          key={as}
          className="text-nowrap"
          variant="outline-primary"
          size="sm"
          disabled={state === 'making'}
          onClick={() => void save(as)}
        >
          <Download size={14} aria-hidden /> {say`Save as ${as.toUpperCase()}`}
        </Button>
      ))}
      <span className="soft">
        {state === 'making' ? say`is being drawn …` : say`shapes, without finishing`}
      </span>
      {state === 'failed' && (
        <span className="trouble">{say`It could not be drawn. Try again.`}</span>
      )}
    </div>
  );
}
