// A render process of the bench: renders one recipe as often as asked, tells seconds and peak memory.
import { readFileSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { endThreads, renderFile } from '../src/server/runs/render-file';
import type { SettledRecipe } from '../src/core/treatment/recipe';

const task = JSON.parse(process.argv[2]!) as {
  raw: string;
  out: string;
  recipe: SettledRecipe;
  times: number;
};
const seconds: number[] = [];
for (let i = 0; i < task.times; i++) {
  const rendered = await renderFile({
    original: { file: '', name: 'bench', raw: () => Promise.resolve(task.raw) },
    recipe: task.recipe,
    profile: null,
    out: task.out,
  });
  seconds.push(rendered.seconds);
  await rm(task.out);
}
await endThreads();
const peak = /VmHWM:\s+(\d+) kB/.exec(readFileSync('/proc/self/status', 'utf8'))![1];
console.log(JSON.stringify({ seconds, peakMB: Number(peak) / 1000 }));
