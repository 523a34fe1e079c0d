import type { Knex } from 'knex';

/** Runs become tasks of the kind `render`: what they do is their payload, what they made their artifacts. */
export const tasks = {
  name: '0006-tasks',
  async up(knex: Knex): Promise<void> {
    await knex.schema.createTable('tasks', (table) => {
      table.string('id').primary();
      table.string('kind').notNullable();
      table.string('parent').references('tasks.id').index();
      table.integer('piece_id').notNullable().references('pieces.id').index();
      table.json('payload').notNullable();
      table.string('state').notNullable();
      table.float('progress').notNullable().defaultTo(0);
      table.double('rank').notNullable();
      table.boolean('cancel_asked').notNullable().defaultTo(false);
      table.integer('attempts').notNullable().defaultTo(0);
      table.string('owner');
      table.bigInteger('lease_until');
      table.bigInteger('queued_at').notNullable();
      table.bigInteger('started_at');
      table.bigInteger('finished_at');
      table.bigInteger('changed_at').notNullable().index();
      table.text('error');
      table.json('result');
      table.index(['state', 'rank']);
      table.index(['kind', 'state', 'finished_at']);
    });
    await knex.schema.createTable('artifacts', (table) => {
      table.string('task_id').notNullable().references('tasks.id');
      table.string('role').notNullable();
      // below the data folder
      table.string('path').notNullable();
      table.string('file_name').notNullable();
      table.bigInteger('bytes').notNullable();
      table.string('digest', 64);
      table.primary(['task_id', 'role']);
    });
    const same =
      'id, piece_id, state, progress, rank, cancel_asked, attempts, owner, lease_until, queued_at, started_at, finished_at, changed_at, error';
    await knex.raw(
      `insert into tasks (kind, payload, result, ${same})
       select 'render',
         json_object('trialId', trial_id, 'trialName', trial_name, 'recipe', json(recipe), 'fileName', file_name),
         json_remove(result, '$.fileName', '$.bytes'), ${same} from runs`,
    );
    await knex.raw(
      `insert into artifacts (task_id, role, path, file_name, bytes)
       select id, 'result', 'results/' || id, json_extract(result, '$.fileName'), json_extract(result, '$.bytes')
       from runs where result is not null`,
    );
    await knex.schema.dropTable('runs');
  },
};
