import type { Knex } from 'knex';

/** How long something waits to be cleared away is counted in rounds of housekeeping: clocks can be set. */
export const rounds = {
  name: '0011-rounds',
  async up(knex: Knex): Promise<void> {
    await knex.schema.alterTable('jobs', (table) => {
      table.integer('deleted_rounds').notNullable().defaultTo(0);
    });
    await knex.schema.alterTable('originals', (table) => {
      table.integer('unused_rounds').notNullable().defaultTo(0);
    });
  },
};
