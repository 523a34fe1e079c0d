import type { Knex } from 'knex';

/** Colour profiles that the shop added. A removed one stays kept: results were made with it. */
export const profiles = {
  name: '0016-profiles',
  async up(knex: Knex): Promise<void> {
    await knex.schema.createTable('profiles', (table) => {
      table.string('digest').primary();
      table.string('name').notNullable();
      table.string('space').notNullable();
      table.bigInteger('added_at').notNullable();
      table.bigInteger('removed_at');
    });
  },
};
