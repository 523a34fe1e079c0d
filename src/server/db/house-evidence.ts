import type { Knex } from 'knex';
import { LRUCache } from 'lru-cache';
import { followsRecipe } from '@/core/house/apply';
import { HouseContent, type HouseEvidence } from '@/core/house/house-recipe';
import { Trial } from '@/core/recipe/work';

/** Of a recipe that nobody used. */
export const NO_EVIDENCE: HouseEvidence = {
  ...{ pictures: 0, changed: 0, approved: 0, sent: 0, lastUsed: null },
};

interface Used {
  piece: number;
  revision: number;
  trial: string;
  house: number;
  version: number;
  at: number;
  approved: number | null;
  sent: number;
}

/** Whether trials still follow the recipe that they were begun by: that is told once of each revision of a picture. */
const following = new LRUCache<string, boolean>({ max: 20_000 });

/** Trials that were begun by a recipe, with what became of their pictures, by recipe. */
export async function houseEvidence(db: Knex): Promise<Map<number, HouseEvidence>> {
  const used: Used[] = await db('pieces')
    .join('jobs', 'jobs.id', 'pieces.job_id')
    .joinRaw("join json_each(pieces.work, '$.trials') as trial")
    .whereNull('jobs.deleted_at')
    // Most works name none: their text is looked at before it is read.
    .whereRaw(`instr(pieces.work, '"house":{') > 0`)
    .whereRaw("json_extract(trial.value, '$.house.id') is not null")
    .select(
      'pieces.id as piece',
      'pieces.revision',
      db.raw("json_extract(trial.value, '$.id') as trial"),
      db.raw("json_extract(trial.value, '$.house.id') as house"),
      db.raw("json_extract(trial.value, '$.house.version') as version"),
      db.raw('(select max(at) from changes where piece_id = pieces.id) as at'),
      db.raw(
        `(select json_extract(data, '$.trialId') from events where piece_id = pieces.id and
          kind in ('approved', 'approval withdrawn') order by id desc limit 1) =
          json_extract(trial.value, '$.id') as approved`,
      ),
      db.raw("exists (select 1 from events where piece_id = pieces.id and kind = 'sent') as sent"),
    );
  const follows = followsOf(db);
  const found = new Map<number, HouseEvidence & { seen: Set<number> }>();
  for (const one of used) {
    const { piece, house, at, approved, sent } = one;
    const evidence = found.get(house) ?? { ...NO_EVIDENCE, seen: new Set<number>() };
    found.set(house, evidence);
    const first = !evidence.seen.has(piece);
    evidence.seen.add(piece);
    if (first) {
      evidence.pictures++;
      evidence.sent += Number(Boolean(sent));
    }
    evidence.approved += Number(Boolean(approved));
    if (!(await follows(one))) evidence.changed++;
    evidence.lastUsed = Math.max(evidence.lastUsed ?? 0, Number(at));
  }
  return new Map([...found].map(([id, { seen: _, ...evidence }]) => [id, evidence]));
}

/** Tells which trials follow their recipes; each recipe's version is read once. */
function followsOf(db: Knex): (used: Used) => Promise<boolean> {
  const contents = new Map<string, Promise<HouseContent | null>>();
  const contentOf = ({ house, version }: Used) => {
    const key = `${house} ${version}`;
    const known = contents.get(key) ?? readContent(db, house, version);
    contents.set(key, known);
    return known;
  };
  return async (used) => {
    const { piece, revision, trial, house, version } = used;
    const key = [piece, revision, trial, house, version].join();
    const known = following.get(key);
    if (known !== undefined) return known;
    const content = await contentOf(used);
    const row = await db('pieces').where({ id: piece }).first('work');
    const trials: unknown[] = JSON.parse(row?.work ?? '{}').trials ?? [];
    const its = Trial.safeParse(trials.find((one) => (one as { id?: unknown }).id === trial));
    // Of what can't be read nothing is said.
    const does = !content || !its.success || followsRecipe(its.data, content);
    following.set(key, does);
    return does;
  };
}

async function readContent(db: Knex, id: number, version: number): Promise<HouseContent | null> {
  const row = await db('house_versions').where({ recipe_id: id, version }).first('content');
  return HouseContent.safeParse(JSON.parse(row?.content ?? 'null')).data ?? null;
}
