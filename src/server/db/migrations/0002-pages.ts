import type { Knex } from 'knex';

/** What was found out about an original is kept page by page. */
export const pages = {
  name: '0002-pages',
  async up(knex: Knex): Promise<void> {
    await knex.schema.createTable('pages', (table) => {
      table.string('digest', 64).notNullable().references('originals.digest');
      table.integer('page').notNullable();
      table.json('findings').notNullable();
      table.json('maps');
      table.binary('profile');
      table.primary(['digest', 'page']);
    });
    await knex.raw(
      'insert into pages (digest, page, findings, profile) select digest, 1, findings, profile from originals',
    );
    await knex.raw('alter table originals drop column findings');
    await knex.raw('alter table originals drop column profile');
  },
};
