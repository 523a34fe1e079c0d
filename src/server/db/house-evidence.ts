import type { Knex } from 'knex';
import { followsRecipe } from '@/core/house/apply';
import { HouseContent, type HouseEvidence } from '@/core/house/house-recipe';
import { Trial } from '@/core/recipe/work';

/** Of a recipe that nobody used. */
export const NO_EVIDENCE: HouseEvidence = {
  ...{ pictures: 0, changed: 0, approved: 0, sent: 0, lastUsed: null },
};

interface Used {
  piece: number;
  trial: string;
  house: number;
  version: number;
  at: number;
  approved: number | null;
  sent: number;
}

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
      'trial.value as trial',
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
  const contents = new Map<string, HouseContent | null>();
  const found = new Map<number, HouseEvidence & { seen: Set<number> }>();
  for (const { piece, trial, house, version, at, approved, sent } of used) {
    const key = `${house} ${version}`;
    if (!contents.has(key)) {
      contents.set(key, await contentOfVersion(db, house, version));
    }
    const evidence = found.get(house) ?? { ...NO_EVIDENCE, seen: new Set<number>() };
    found.set(house, evidence);
    const content = contents.get(key);
    const read = Trial.safeParse(JSON.parse(trial));
    const first = !evidence.seen.has(piece);
    evidence.seen.add(piece);
    if (first) {
      evidence.pictures++;
      evidence.sent += Number(Boolean(sent));
    }
    evidence.approved += Number(Boolean(approved));
    if (content && read.success && !followsRecipe(read.data, content)) evidence.changed++;
    evidence.lastUsed = Math.max(evidence.lastUsed ?? 0, Number(at));
  }
  return new Map([...found].map(([id, { seen: _, ...evidence }]) => [id, evidence]));
}

async function contentOfVersion(
  db: Knex,
  id: number,
  version: number,
): Promise<HouseContent | null> {
  const row = await db('house_versions').where({ recipe_id: id, version }).first('content');
  return row ? (HouseContent.safeParse(JSON.parse(row.content)).data ?? null) : null;
}
