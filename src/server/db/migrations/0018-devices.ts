import type { Knex } from 'knex';

/** Devices that ship as stand-ins, by the names under which shops had them before they could be sent to. */
const STAND_INS = [
  { stand_in: 'roll', name: 'Wide inkjet, latex', ppi: 160 },
  { stand_in: 'flatbed', name: 'Flatbed, UV', ppi: 200 },
  { stand_in: 'sheet', name: 'Sheet printer', ppi: 300 },
];

/** Devices can be sent to, and say how they stand; what was sent is kept. */
export const devices = {
  name: '0018-devices',
  async up(knex: Knex): Promise<void> {
    await knex.schema.alterTable('devices', (table) => {
      // Which of those that ship stands in for it; their addresses are new with every start.
      table.string('stand_in').unique();
      table.string('address');
      table.json('description');
      table.boolean('answers').notNullable().defaultTo(false);
      table.bigInteger('since');
      table.bigInteger('removed_at');
      table.integer('change').notNullable().defaultTo(0);
    });
    for (const { stand_in, name, ppi } of STAND_INS) {
      const known = await knex('devices').where({ name }).update({ stand_in });
      if (known === 0) await knex('devices').insert({ name, ppi, stand_in });
    }
    await knex.schema.createTable('sendings', (table) => {
      table.string('key').primary();
      table.integer('piece_id').notNullable().references('pieces.id').index();
      table.string('task_id').notNullable().references('tasks.id');
      table.integer('device_id').notNullable().references('devices.id');
      // As it was called then.
      table.string('device').notNullable();
      table.string('file_name').notNullable();
      table.string('title').notNullable();
      // A proof is no print of the job.
      table.boolean('proof').notNullable();
      table.string('material').notNullable();
      table.integer('copies').notNullable();
      table.string('state').notNullable().index();
      table.float('progress').notNullable().defaultTo(0);
      table.json('trouble');
      table.string('words');
      table.float('spoilt').notNullable().defaultTo(0);
      table.json('dots');
      table.boolean('cancel_asked').notNullable().defaultTo(false);
      table.bigInteger('at').notNullable();
      table.bigInteger('finished_at');
      table.integer('change').notNullable().index();
    });
  },
};
