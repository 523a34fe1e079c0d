import type { Knex } from 'knex';

/** What was asked for by a name of its own and done, so that it is not done again where its answer was lost. */
export const askedOnce = {
  name: '0026-asked-once',
  async up(knex: Knex): Promise<void> {
    await knex.schema.createTable('asked_once', (table) => {
      table.string('name').primary();
      table.integer('job_id').notNullable();
      // The pictures that came of it, as JSON.
      table.text('pieces').notNullable();
      table.integer('at').notNullable().index();
    });
  },
};
