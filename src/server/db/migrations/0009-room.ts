import type { Knex } from 'knex';

/** Jobs can be deleted, which can be taken back for a while; files of results can go while their record stays. */
export const room = {
  name: '0009-room',
  async up(knex: Knex): Promise<void> {
    await knex.schema.alterTable('jobs', (table) => {
      table.bigInteger('deleted_at').index();
    });
    await knex.schema.alterTable('artifacts', (table) => {
      table.bigInteger('gone_at');
    });
  },
};
