import type { Knex } from 'knex';

/**
 * Changes of tasks are counted, so that what is new doesn't follow from clocks, which can be set back. Attempts
 * become the times that a task took its process down.
 */
export const taskNews = {
  name: '0008-task-news',
  async up(knex: Knex): Promise<void> {
    await knex.schema.alterTable('tasks', (table) => {
      table.integer('change').notNullable().defaultTo(0);
      table.index('change');
    });
    await knex.raw(
      'update tasks set change = (select count(*) from tasks as other where other.changed_at <= tasks.changed_at)',
    );
    await knex('tasks').update({ attempts: 0 });
  },
};
