import type { Knex } from 'knex';

/** House recipes: each as it is now, and every version that it ever had. */
export const house = {
  name: '0020-house',
  async up(knex: Knex): Promise<void> {
    await knex.schema.createTable('house_recipes', (table) => {
      table.increments('id');
      // What a recipe that ships is known by, so that one that was deleted stays so.
      table.string('ships').unique();
      table.string('name').notNullable();
      table.integer('version').notNullable();
      table.bigInteger('deleted_at');
    });
    await knex.raw(
      'create unique index house_names on house_recipes (name collate nocase) where deleted_at is null',
    );
    await knex.schema.createTable('house_versions', (table) => {
      table.integer('recipe_id').notNullable().references('house_recipes.id');
      table.integer('version').notNullable();
      table.string('name').notNullable();
      table.json('content').notNullable();
      table.bigInteger('at').notNullable();
      table.json('author');
      table.primary(['recipe_id', 'version']);
    });
    await knex.raw(`create trigger house_versions_are_never_edited before update on house_versions
      begin select raise(abort, 'a version is never edited'); end`);
  },
};
