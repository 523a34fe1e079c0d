import type { Knex } from 'knex';

/** What the board shows of each job, kept ready; rows that don't know the last change are made anew when they are asked for. */
export const board = {
  name: '0007-board',
  async up(knex: Knex): Promise<void> {
    await knex.schema.createTable('board', (table) => {
      table.integer('job_id').primary().references('jobs.id');
      table.integer('version').notNullable();
      // changes of the job, and how many of them the row knows
      table.integer('changes').notNullable().defaultTo(0);
      table.integer('known').notNullable().defaultTo(0);
      // what a search looks through, in small letters
      table.text('words').notNullable();
      // what rows are sorted by
      table.double('area');
      table.double('carries');
      table.string('verdict');
      table.integer('pieces').notNullable();
      table.json('facts').notNullable();
    });
    await knex.schema.alterTable('jobs', (table) => {
      table.index(['archived', 'due']);
    });
    await knex.schema.alterTable('pieces', (table) => {
      table.index('job_id');
    });
  },
};
