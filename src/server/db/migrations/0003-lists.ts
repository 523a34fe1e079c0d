import type { Knex } from 'knex';

/** The shop's lists, with what most shops have; and jobs can leave the board for the archive. */
export const lists = {
  name: '0003-lists',
  async up(knex: Knex): Promise<void> {
    await knex.schema.createTable('devices', (table) => {
      table.increments('id');
      table.string('name').notNullable().unique();
      table.float('ppi').notNullable();
    });
    await knex.schema.createTable('materials', (table) => {
      table.increments('id');
      table.string('name').notNullable().unique();
      table.float('distance').notNullable();
    });
    await knex.schema.createTable('sheets', (table) => {
      table.increments('id');
      table.string('name').notNullable().unique();
      table.float('width').notNullable();
      table.float('height');
    });
    await knex('devices').insert([
      { name: 'Wide inkjet, pigment', ppi: 300 },
      { name: 'Wide inkjet, latex', ppi: 160 },
      { name: 'Flatbed, UV', ppi: 200 },
      { name: 'Banner printer', ppi: 100 },
      { name: 'Photographic paper', ppi: 300 },
    ]);
    await knex('materials').insert([
      { name: 'Photo paper, satin', distance: 1 },
      { name: 'Canvas', distance: 2 },
      { name: 'Rigid board', distance: 2 },
      { name: 'Window film', distance: 3 },
      { name: 'Banner, 510 g', distance: 5 },
      { name: 'Mesh', distance: 12 },
    ]);
    await knex('sheets').insert([
      { name: 'A4', width: 210, height: 297 },
      { name: 'A3', width: 297, height: 420 },
      { name: 'A2', width: 420, height: 594 },
      { name: 'A1', width: 594, height: 841 },
      { name: 'A0', width: 841, height: 1189 },
      { name: '50 × 70 cm', width: 500, height: 700 },
      { name: '70 × 100 cm', width: 700, height: 1000 },
      { name: 'Roll 61 cm', width: 610, height: null },
      { name: 'Roll 107 cm', width: 1070, height: null },
      { name: 'Roll 137 cm', width: 1370, height: null },
      { name: 'Roll 160 cm', width: 1600, height: null },
    ]);
    await knex.schema.alterTable('jobs', (table) => {
      table.boolean('archived').notNullable().defaultTo(false).index();
    });
  },
};
