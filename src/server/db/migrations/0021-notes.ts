import type { Knex } from 'knex';

/** Notes on jobs, what the board is filtered by, and records of jobs that are gone of which something was sent. */
export const notes = {
  name: '0021-notes',
  async up(knex: Knex): Promise<void> {
    await knex.schema.alterTable('jobs', (table) => {
      table.text('note').notNullable().defaultTo('');
    });
    await knex.schema.alterTable('board', (table) => {
      table.string('material');
    });
    await knex.schema.createTable('gone_records', (table) => {
      // Its job may be there no more.
      table.integer('job_id').primary();
      table.string('number').notNullable().index();
      table.json('record').notNullable();
      table.bigInteger('at').notNullable();
    });
  },
};
