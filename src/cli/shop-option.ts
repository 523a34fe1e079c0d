import type { Command } from 'commander';

/** The option that says of which shop. */
export const withData = (command: Command): Command =>
  command.option('--data <folder>', "of the shop's data; LONTANO_DATA unless it is given");
