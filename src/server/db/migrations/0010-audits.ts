import type { Knex } from 'knex';

/** What was found whenever database, files and digests were compared. */
export const audits = {
  name: '0010-audits',
  async up(knex: Knex): Promise<void> {
    await knex.schema.createTable('audits', (table) => {
      table.increments('id');
      table.bigInteger('at').notNullable();
      table.json('audit').notNullable();
    });
  },
};
