import type { Knex } from 'knex';

/** Pictures that were taken out of pages of shapes, and why others could not be. */
export const takenOut = {
  name: '0014-taken-out',
  async up(knex: Knex): Promise<void> {
    await knex.schema.createTable('taken_out', (table) => {
      table.string('parent').notNullable().references('originals.digest');
      table.integer('page').notNullable();
      table.integer('picture').notNullable();
      table.string('digest').references('originals.digest');
      table.string('why');
      table.primary(['parent', 'page', 'picture']);
      table.index('digest');
    });
  },
};
