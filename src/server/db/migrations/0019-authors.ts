import type { Knex } from 'knex';

/** Who changed what, and which jobs changed last, so that whoever looks at one hears of it. */
export const authors = {
  name: '0019-authors',
  async up(knex: Knex): Promise<void> {
    await knex.schema.alterTable('changes', (table) => {
      table.json('author');
    });
    await knex.schema.alterTable('pieces', (table) => {
      // Of its newest revision, which may be a move along its history.
      table.json('author');
    });
    await knex.schema.alterTable('jobs', (table) => {
      table.integer('change').notNullable().defaultTo(0).index();
    });
  },
};
