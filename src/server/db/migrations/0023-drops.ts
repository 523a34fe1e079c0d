import type { Knex } from 'knex';

/** Watched folders: how each stands, and what was taken from it. */
export const drops = {
  name: '0023-drops',
  async up(knex: Knex): Promise<void> {
    await knex.schema.createTable('drops', (table) => {
      table.string('name').primary();
      // The batch that its pictures join, and the day for which that is.
      table.integer('batch_id').references('batches.id');
      table.string('day');
      table.integer('taken_in').notNullable().defaultTo(0);
      table.integer('put_aside').notNullable().defaultTo(0);
      table.text('trouble');
      table.bigInteger('looked_at');
    });
    await knex.schema.createTable('drop_files', (table) => {
      table.increments('id');
      table.string('drop').notNullable();
      // A file is known by these until it is out of the folder: so none becomes two jobs, whoever is killed in between.
      table.string('name').notNullable();
      table.bigInteger('bytes').notNullable();
      table.bigInteger('changed_at').notNullable();
      // Of one that was put aside neither is known.
      table.string('digest');
      table.integer('job_id');
      table.bigInteger('at').notNullable();
      table.boolean('moved').notNullable().defaultTo(false);
      table.index(['drop', 'name', 'moved']);
    });
  },
};
