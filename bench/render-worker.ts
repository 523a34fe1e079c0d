// A render process of the bench: renders recipes as often as asked, tells seconds and peak memory.
import { readFileSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { endThreads, renderFile } from '../src/server/runs/render-file';
import type { SettledRecipe } from '../src/core/treatment/recipe';

const task = JSON.parse(readFileSync(0, 'utf8')) as {
  raw: string;
  out: string;
  recipes: SettledRecipe[];
  times: number;
};
const seconds: number[][] = [];
for (const recipe of task.recipes) {
  const each: number[] = [];
  for (let i = 0; i < task.times; i++) {
    const result = await renderFile({
      original: { file: '', name: 'bench', raw: () => Promise.resolve(task.raw) },
      recipe,
      profile: null,
      out: task.out,
    });
    each.push(result.seconds);
    await rm(task.out);
  }
  seconds.push(each);
}
await endThreads();
const peak = /VmHWM:\s+(\d+) kB/.exec(readFileSync('/proc/self/status', 'utf8'))![1];
console.log(JSON.stringify({ seconds, peakMB: Number(peak) / 1000 }));
