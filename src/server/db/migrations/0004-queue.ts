import type { Knex } from 'knex';

/** Runs that wait stand in an order of their own, which can be changed. */
export const queue = {
  name: '0004-queue',
  async up(knex: Knex): Promise<void> {
    await knex.schema.alterTable('runs', (table) => {
      table.double('rank').notNullable().defaultTo(0);
    });
    await knex('runs').update({ rank: knex.ref('queued_at') });
  },
};
