// npm run torture [-- minutes [seed [day]]]: a shop in which two people work while files are sent that something happened
// to, processes are killed, the disk fills, clocks jump, and it is closed and opened; then everything that it said it
// kept is compared with what is there. A day is calm: nobody kills, and memory and answers are looked at.
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Archives } from './archives';
import { again, run, runningBatches } from './batches';
import { check, openSendings } from './checked';
import { HotFolder } from './dropped';
import { smallDisk } from './disk';
import { Ledger } from './ledger';
import { MemoryLog } from './memory';
import { samples } from './mutants';
import { randomOf } from './random';
import { beside, later, TorturedShop } from './shop';
import { sendMutants, tendDevices, work, type Somebody } from './technician';
import { compareWithUndisturbed } from './undisturbed';

const minutes = Number(process.argv[2] ?? 3);
const seed = Number(process.argv[3] ?? Date.now() % 100_000);
const day = process.argv[4] === 'day';
const PORT = 4399;
/** After a disturbance answers may be late for so long, in milliseconds. */
const WARM_MS = 2000;
/** So often a start may be refused. */
const STARTS = 3;
/** Runs in which nothing changes for so long are stuck. */
const STUCK_MS = 60_000;
/** A process that hangs is ended after three seconds; on a machine that is busy all of it takes longer. */
const STUCK_CLOSING_MS = 10_000;
/** Room on the disk that can be filled, in megabytes: more than what is kept back. */
const DISK_MB = 1500;
/** By how much a process may hold more at the end of a day than in its first hour. */
const MOST_GROWTH = 1.2;
/** What no answer that only reads may take longer than, 99 times of 100, in milliseconds. */
const IN_TIME_MS = 200;

const random = randomOf(seed);
const ledger = new Ledger();
const folder = mkdtempSync(join(tmpdir(), 'lontano-torture-'));
const disk = day ? null : smallDisk(DISK_MB);
const data = join(disk?.folder ?? folder, 'data');
const { log, clock } = beside(folder);
// Not on the disk that is filled: whoever puts files there has another one, and archives are kept on another.
const hot = new HotFolder(join(folder, 'hot'));
const archives = new Archives(join(folder, 'archives'));
mkdirSync(data, { recursive: true });
writeFileSync(
  join(data, 'folders.json'),
  JSON.stringify({ drops: [hot.entry], backups: [archives.entry] }),
);
const shop = new TorturedShop(data, PORT, { log, clock });
console.log(
  `torture for ${minutes} minutes, seed ${seed}${disk || day ? '' : '; no disk of its own can be mounted here, so none is filled'}`,
);

const began = performance.now();
const share = () => (performance.now() - began) / (minutes * 60_000);
const over = () => share() >= 1;
const memory = new MemoryLog();
let disturbed = 0;
let full = false;
const counts = { kills: 0, restarts: 0, 'full disks': 0, 'jumps of the clock': 0 };
const killed = new Map<string, number>();

/** A while in which answers may be late or missing. */
async function disturbing(what: () => Promise<void>): Promise<void> {
  disturbed++;
  try {
    await what();
    const asked = performance.now();
    while (!(await shop.answers())) {
      if (performance.now() - asked > STUCK_MS) throw new Error('the shop does not answer again');
      await later(50);
    }
    // What was just started is not warm yet, and what waited comes all at once.
    await later(WARM_MS);
  } finally {
    disturbed--;
  }
}

let opening: Promise<void> = Promise.resolve();

/** Ends the supervisor and opens the shop again; one such at a time. */
function reopen(signal: 'SIGTERM' | 'SIGKILL'): Promise<void> {
  return (opening = opening.then(async () => {
    await shop.stop(signal);
    // A start may be refused, on a full disk or where processes of the last one are still ending: who is told so starts
    // it again.
    for (let tries = 1; ; tries++) {
      try {
        return await shop.start();
      } catch (error) {
        if (tries === STARTS) throw error;
        await shop.stop('SIGKILL');
        await later(2000);
      }
    }
  }));
}

/** Ends one process, or several in the same moment. */
async function kill(): Promise<void> {
  const times = random.below(3) ? 1 : 2 + random.below(2);
  await Promise.all(Array.from({ length: times }, killOne));
}

async function killOne(): Promise<void> {
  const victims = shop.processes();
  if (victims.length === 0) return;
  // Of each sort one as often as of another, however many there are; the supervisor seldom, since all ends with it.
  const sorts = [...new Set(victims.map(({ what }) => what))];
  const sort = random.pick(random.below(6) ? sorts.filter((one) => one !== 'supervisor') : sorts);
  if (!sort) return;
  const victim = random.pick(victims.filter(({ what }) => what === sort));
  counts.kills++;
  killed.set(sort, (killed.get(sort) ?? 0) + 1);
  if (sort === 'supervisor') {
    await reopen('SIGKILL');
  } else {
    try {
      process.kill(victim.pid, 'SIGKILL');
    } catch {
      // it had ended by itself
    }
  }
}

async function fillDisk(): Promise<void> {
  if (!disk) return;
  counts['full disks']++;
  full = true;
  disk.fill(random.below(400_000));
  await later(1000 + random.below(2000));
  disk.release();
  await later(1000);
  full = false;
}

async function jumpClock(): Promise<void> {
  counts['jumps of the clock']++;
  writeFileSync(clock, String((random.below(2) ? 1 : -1) * random.below(72) * 3_600_000));
  await later(200);
}

async function restart(): Promise<void> {
  counts.restarts++;
  await reopen('SIGTERM');
}

async function disturb(): Promise<void> {
  while (!over()) {
    await later(100 + random.below(600));
    const choice = random.below(20);
    const what = choice < 17 ? kill : choice < 18 ? restart : choice < 19 ? fillDisk : jumpClock;
    // The next one doesn't wait until this one is over: it may come at any moment.
    const disturbance = disturbing(what);
    if (what !== kill || random.below(4) === 0) await disturbance;
  }
}

const somebody = (name: string, n: number): Somebody => ({
  ...{ url: shop.url, ledger, over, name },
  random: randomOf(seed * 31 + n),
  calm: () => disturbed === 0,
  mayBeFull: () => full || disturbed > 0,
});

const wrong: string[] = [];
let mutants = 0;
try {
  const of = await samples();
  await shop.start();
  const sending = [1, 2].map((n) => sendMutants(somebody(`sender ${n}`, n), of));
  await Promise.all([
    day ? memory.watch(shop, share) : disturb(),
    work(somebody('first tab', 3)),
    work(somebody('second tab', 4)),
    hot.fill(somebody('who drops files', 6)),
    archives.keep(somebody('who backs up', 7)),
    Promise.all(sending).then((sent) => (mutants = sent.reduce((sum, one) => sum + one, 0))),
  ]);
  while (disturbed > 0) await later(100);
  disk?.release();
  rmSync(clock, { force: true });
  while (!(await shop.answers())) await later(100);
  // However long it takes, as long as it goes on.
  let changed = performance.now();
  let last = '';
  const tender = somebody('who tends devices', 5);
  // What was paused goes on, what failed by what was done to the shop is made again.
  for (const id of ledger.batches.keys()) {
    await again(tender, id);
    await run(tender, id);
  }
  for (let open = 1; open > 0 && performance.now() - changed < STUCK_MS; await later(300)) {
    await tendDevices(tender);
    const tasks = await (await fetch(`${shop.url}/api/tasks`)).text();
    const prints = openSendings(data);
    const text = tasks + JSON.stringify([prints, hot.waiting()]);
    open =
      (JSON.parse(tasks) as unknown[]).length +
      prints.length +
      hot.waiting().length +
      Number(await archives.isBusy(tender)) +
      (await runningBatches(tender));
    if (text !== last) changed = performance.now();
    last = text;
  }
  // A start clears away what was left half done.
  await restart();
  const stopping = performance.now();
  await shop.stop();
  const took = performance.now() - stopping;
  if (took > STUCK_CLOSING_MS) wrong.push(`it took ${(took / 1000).toFixed(1)} s to close`);
  const orphans = await shop.orphans();
  if (orphans.length > 0) wrong.push(`${orphans.length} processes live on: ${orphans.join(', ')}`);
  const checked = check(data, ledger, { hot, archives }, join(folder, 'restored'));
  const undisturbed = await compareWithUndisturbed(data, checked.results, random, 12);
  wrong.push(...ledger.faults, ...checked.wrong, ...undisturbed.wrong);
  const slowest = ledger.times.sort((one, other) => one.ms - other.ms);
  const within = (share: number) => slowest[Math.floor(slowest.length * share)]?.ms ?? 0;
  const late = within(0.99);
  for (const { what, first, last } of memory.firstAndLast()) {
    console.log(
      `        ${what}: ${first.toFixed(0)} MB in its first hour, ${last.toFixed(0)} MB in its last`,
    );
    if (last > first * MOST_GROWTH) wrong.push(`${what} grew by ${(last / first).toFixed(2)} x`);
  }
  // Where all is killed all the time, answers may be late.
  if (day && late > IN_TIME_MS) {
    wrong.push(`1 of 100 answers took longer than ${late.toFixed(0)} ms (asked: ${IN_TIME_MS} ms)`);
  }
  const list = (of: Iterable<[string, number]>) =>
    [...of].map(([what, n]) => `${n} ${what}`).join(', ');
  console.log(`        ${list(Object.entries(counts))}; killed: ${list(killed)}`);
  console.log(
    `        ${mutants} mutated files; kept: ${ledger.originals.size} originals, ${ledger.jobs.size} jobs, ${[...ledger.changes.values()].reduce((sum, { size }) => sum + size, 0)} changes, ${ledger.runs.size} runs, ${ledger.batches.size} batches with ${ledger.joined.size} pictures, ${hot.count} files of a watched folder, ${ledger.sendings.size} files sent, ${checked.printed} printed, ${checked.archived} archives, of which the last was restored; ${undisturbed.compared} results compared with undisturbed ones`,
  );
  console.log(
    `        ${slowest.length} answers in calm, half of them within ${within(0.5).toFixed(0)} ms, 99 of 100 within ${late.toFixed(0)} ms; the slowest: ${slowest
      .slice(-8)
      .map(({ what, ms }) => `${what} ${ms.toFixed(0)}`)
      .join(', ')}`,
  );
  console.log(`        answers: ${list([...ledger.answers].sort())}`);
} catch (error) {
  wrong.push(`the torture itself broke: ${error instanceof Error ? error.stack : String(error)}`);
} finally {
  await shop.stop();
  disk?.close();
}
for (const words of wrong.slice(0, 60)) console.log(`WRONG   ${words}`);
if (wrong.length > 0) console.log(`        what the shop said is in ${log}; seed ${seed}`);
else rmSync(folder, { recursive: true, force: true });
console.log(
  wrong.length === 0
    ? 'holds   nothing lost, nothing doubled'
    : `MISSES  ${wrong.length} things are wrong`,
);
process.exitCode = wrong.length === 0 ? 0 : 1;
