import type { Knex } from 'knex';

/** What was done with archives of the shop: written, or compared with their own lists. */
export const backups = {
  name: '0025-backups',
  async up(knex: Knex): Promise<void> {
    await knex.schema.createTable('backups', (table) => {
      table.increments('id');
      table.string('kind').notNullable();
      table.string('folder').notNullable();
      table.string('file').notNullable();
      table.boolean('all_results').notNullable().defaultTo(false);
      table.string('state').notNullable();
      table.float('progress').notNullable().defaultTo(0);
      table.integer('began_at').notNullable();
      // When whoever does it was last heard of.
      table.integer('beat_at').notNullable();
      table.integer('finished_at');
      table.text('words');
    });
  },
};
