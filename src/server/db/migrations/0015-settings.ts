import type { Knex } from 'knex';

/** What the shop decides once for all jobs: a name and its value as JSON. */
export const settings = {
  name: '0015-settings',
  async up(knex: Knex): Promise<void> {
    await knex.schema.createTable('settings', (table) => {
      table.string('name').primary();
      table.text('value').notNullable();
    });
  },
};
