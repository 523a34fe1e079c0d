import type { Knex } from 'knex';

/** What is kept beside a picture's history for comparing: marks on it, what of its results was seen, pictures brought to it. */
export const comparing = {
  name: '0013-comparing',
  async up(knex: Knex): Promise<void> {
    await knex.schema.createTable('marks', (table) => {
      table.increments('id');
      table.integer('piece_id').notNullable().references('pieces.id');
      table.integer('page').notNullable();
      table.float('x').notNullable();
      table.float('y').notNullable();
      table.string('note').notNullable();
      table.bigInteger('at').notNullable();
      table.index('piece_id');
    });
    await knex.schema.alterTable('artifacts', (table) => table.index('digest'));
    await knex.schema.createTable('sweeps', (table) => {
      table.integer('piece_id').notNullable().references('pieces.id');
      table.string('trial').notNullable();
      table.string('state').notNullable();
      table.integer('columns').notNullable();
      table.integer('rows').notNullable();
      table.binary('seen').notNullable();
      table.primary(['piece_id', 'trial']);
    });
    await knex.schema.createTable('brought', (table) => {
      table.increments('id');
      table.integer('piece_id').notNullable().references('pieces.id');
      table.string('digest').notNullable().references('originals.digest');
      table.integer('page').notNullable();
      table.string('file_name').notNullable();
      table.bigInteger('at').notNullable();
      table.index('piece_id');
      table.index('digest');
    });
  },
};
