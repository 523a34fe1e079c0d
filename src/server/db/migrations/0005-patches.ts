import type { Knex } from 'knex';

/**
 * A piece holds its work as it stands; a change holds what it changed, and how that is taken back. Changes
 * made before keep the whole work that they led to. Trial letters are given once.
 */
export const patches = {
  name: '0005-patches',
  async up(knex: Knex): Promise<void> {
    await knex.schema.alterTable('pieces', (table) => {
      table.json('work');
    });
    await knex.raw(
      'update pieces set work = (select work from changes where changes.id = pieces.current)',
    );
    await knex.schema.alterTable('changes', (table) => {
      table.json('patch');
      table.json('inverse');
    });
  },
};
