import type { Knex } from 'knex';

/** What happened to jobs: entries that are appended, and never edited. */
export const events = {
  name: '0017-events',
  async up(knex: Knex): Promise<void> {
    await knex.schema.createTable('events', (table) => {
      table.increments('id');
      table.integer('job_id').notNullable().references('jobs.id');
      table.integer('piece_id').references('pieces.id');
      table.bigInteger('at').notNullable();
      table.string('kind').notNullable();
      table.json('data').notNullable();
      table.index(['job_id', 'id']);
    });
    await knex.raw(`create trigger events_are_never_edited before update on events
      begin select raise(abort, 'an event is never edited'); end`);
  },
};
