import type { Knex } from 'knex';

/**
 * Changes of settings are kept, each with what was before; materials and sheets, which had tables of their own, are
 * settings like the others.
 */
export const settingChanges = {
  name: '0024-setting-changes',
  async up(knex: Knex): Promise<void> {
    await knex.schema.createTable('setting_changes', (table) => {
      table.increments('id');
      table.string('name').notNullable().index();
      // As JSON; null stands for what is usual.
      table.text('before');
      table.text('after');
      table.text('author');
      table.integer('at').notNullable();
    });
    for (const [name, columns] of [
      ['materials', ['name', 'distance']],
      ['sheets', ['name', 'width', 'height']],
    ] as const) {
      const rows = await knex(name).orderBy('id').select(columns);
      await knex('settings').insert({ name, value: JSON.stringify(rows) });
      await knex.schema.dropTable(name);
    }
  },
};
