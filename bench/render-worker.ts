// A render process of the bench: renders recipes as often as asked, tells seconds and peak memory.
import { readFileSync } from 'node:fs';
import { endThreads, startThreads } from '../src/server/render/threads';
import { renderFile } from '../src/server/render/render-file';
import type { Recipe } from '../src/core/recipe/recipe';

const task = JSON.parse(readFileSync(0, 'utf8')) as {
  raw: string;
  out: string;
  recipes: Recipe[];
  times: number;
};
const seconds: number[][] = task.recipes.map(() => []);
await startThreads();
// Round by round, so that a slow minute of the machine slows all of them alike.
for (let i = 0; i < task.times; i++) {
  for (const [k, recipe] of task.recipes.entries()) {
    const result = await renderFile({
      original: { file: '', name: 'bench', raw: () => Promise.resolve(task.raw) },
      recipe,
      profile: null,
      out: task.out,
    });
    seconds[k]!.push(result.seconds);
  }
}
await endThreads();
const peak = /VmHWM:\s+(\d+) kB/.exec(readFileSync('/proc/self/status', 'utf8'))![1];
console.log(JSON.stringify({ seconds, peakMB: Number(peak) / 1000 }));
