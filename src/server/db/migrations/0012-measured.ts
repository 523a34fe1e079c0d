import type { Knex } from 'knex';

/** How much room files take, as it was last measured: thousands of them are not looked at for everybody who asks. */
export const measured = {
  name: '0012-measured',
  async up(knex: Knex): Promise<void> {
    await knex.schema.createTable('measured', (table) => {
      table.increments('id');
      table.bigInteger('originals').notNullable();
      table.bigInteger('again').notNullable();
    });
  },
};
