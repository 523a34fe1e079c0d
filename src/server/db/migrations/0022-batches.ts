import type { Knex } from 'knex';

/** Batches: what is decided for many pictures at once, and where each of these stands. */
export const batches = {
  name: '0022-batches',
  async up(knex: Knex): Promise<void> {
    await knex.schema.createTable('batches', (table) => {
      table.increments('id');
      table.string('name').notNullable();
      table.json('plan').notNullable();
      table.string('state').notNullable();
      // Files that were brought to it and could not be taken in, with why.
      table.json('refused').notNullable().defaultTo('[]');
      // What keeps it from going on, and its results from their folder.
      table.text('trouble');
      table.text('folder_trouble');
      table.bigInteger('created_at').notNullable();
      table.bigInteger('started_at');
      table.bigInteger('deleted_at');
      table.integer('change').notNullable().index();
    });
    await knex.schema.createTable('batch_items', (table) => {
      table.increments('id');
      table.integer('batch_id').notNullable().references('batches.id');
      table.integer('piece_id').notNullable().references('pieces.id').index();
      table.float('position').notNullable();
      table.string('trial').notNullable();
      table.boolean('own').notNullable();
      // Written before the run is queued, so that none is asked for twice. Its job may be gone by then.
      table.string('task_id').index();
      table.string('error');
      table.string('judgement');
      // What its result follows from as it is decided now, and what it was made of.
      table.string('wanted');
      table.string('made');
      table.json('facts');
      table.string('facts_of');
      table.string('delivered');
      table.string('delivered_task');
      table.bigInteger('left_at');
      table.integer('change').notNullable();
      table.unique(['batch_id', 'piece_id']);
      table.index(['batch_id', 'change']);
    });
  },
};
