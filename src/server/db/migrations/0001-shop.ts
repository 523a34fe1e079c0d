import type { Knex } from 'knex';

/** Jobs, originals, pieces with their history, and runs. */
export const shop = {
  name: '0001-shop',
  async up(knex: Knex): Promise<void> {
    await knex.schema.createTable('originals', (table) => {
      table.string('digest', 64).primary();
      table.string('name').notNullable();
      table.json('findings').notNullable();
      table.binary('profile');
      table.bigInteger('taken_in_at').notNullable();
    });
    await knex.schema.createTable('jobs', (table) => {
      table.increments('id');
      table.string('number').notNullable().unique();
      table.string('title').notNullable();
      table.string('customer').notNullable();
      table.string('due');
      table.string('state').notNullable();
      table.bigInteger('created_at').notNullable();
    });
    await knex.schema.createTable('pieces', (table) => {
      table.increments('id');
      table.integer('job_id').notNullable().references('jobs.id');
      table.string('digest', 64).notNullable().references('originals.digest');
      table.string('file_name').notNullable();
      table.json('reasons').notNullable();
      table.integer('revision').notNullable();
      // where the piece stands, and the newest change on its line
      table.integer('current');
      table.integer('tip');
    });
    await knex.schema.createTable('changes', (table) => {
      table.increments('id');
      table.integer('piece_id').notNullable().references('pieces.id').index();
      table.integer('parent');
      table.string('label').notNullable();
      table.json('work').notNullable();
      table.bigInteger('at').notNullable();
    });
    await knex.schema.createTable('runs', (table) => {
      table.string('id').primary();
      table.integer('piece_id').notNullable().references('pieces.id').index();
      table.string('trial_id').notNullable();
      table.string('trial_name').notNullable();
      table.json('recipe').notNullable();
      table.string('file_name').notNullable();
      table.string('state').notNullable().index();
      table.float('progress').notNullable().defaultTo(0);
      table.boolean('cancel_asked').notNullable().defaultTo(false);
      table.integer('attempts').notNullable().defaultTo(0);
      table.string('owner');
      table.bigInteger('lease_until');
      table.bigInteger('queued_at').notNullable();
      table.bigInteger('started_at');
      table.bigInteger('finished_at');
      table.bigInteger('changed_at').notNullable();
      table.text('error');
      table.json('result');
    });
  },
};
