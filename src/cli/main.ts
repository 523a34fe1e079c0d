import { fileURLToPath } from 'node:url';
import { Command, CommanderError, Option } from 'commander';
import { Format } from '@/core/output/formats';
import { inWords, Problem } from '@/server/problem';
import { ENDINGS } from './endings';
import { withOrder, withPage, withPapers, withTreatment } from './options';
import { withOutput } from './output';
import { withProof } from './proof-options';
import { withData } from './shop-option';

const EXIT = { usage: 2, input: 3, missing: 3, conflict: 4, work: 4, full: 4 } as const;

process.env.LONTANO_ROOT ??= fileURLToPath(new URL('../..', import.meta.url));

// Each command brings what it needs only when it is asked for.
const program = new Command('lontano')
  .description(
    'From a picture that is too small to a file that prints at exactly the ordered size.',
  )
  .exitOverride()
  .configureOutput({ writeErr: () => {} });

const READ = 'a JPEG, PNG, TIFF, WebP, AVIF, GIF, SVG or PDF';

withPage(program.command('inspect'))
  .description('says what a picture is and what it suffers from')
  .argument('<file>', READ)
  .option('--json', 'one object on stdout')
  .action(async (file, options) => (await import('./inspect')).inspect(file, options));

withOrder(program.command('plan'))
  .description('says what a print of some size would be, without making it')
  .argument('<file>', READ)
  .action(async (file, options) => (await import('./plan')).plan(file, options));

withOutput(withTreatment(withOrder(program.command('enlarge'))))
  .description('writes a print-ready file')
  .argument('<in>', READ)
  .argument('<out>', `its ending picks the format: ${ENDINGS}`)
  .action(async (file, out, options) => (await import('./enlarge')).enlarge(file, out, options));

withData(withOutput(withTreatment(withPapers(program.command('batch')))))
  .description(
    'writes a print file of every picture in a folder; the same command again goes on where it stopped',
  )
  .argument('<folder>', 'of pictures')
  .argument('<outfolder>', 'for the results')
  .addOption(
    new Option('--format <format>', 'of the results').choices(Format.options).default('tiff'),
  )
  .action(async (folder, out, options) =>
    (await import('./batch/batch')).batch(folder, out, options),
  );

withProof(withOutput(withTreatment(withOrder(program.command('proof')))))
  .description('writes places of a print at its own size, to be printed before all of it is')
  .argument('<in>', READ)
  .argument('<out>', 'its ending picks the format: .pdf, .tif')
  .action(async (file, out, options) => (await import('./proof')).proof(file, out, options));

withPage(program.command('compare'))
  .description('says how results hold up beside the original that they were made from')
  .argument('<original>', READ)
  .argument('<results...>', 'pictures of the same shape, at least as large')
  .option('--json', 'one object on stdout')
  .option(
    '--sheet <pdf>',
    'writes a comparison sheet: places beside each other, at the print’s scale',
  )
  .addOption(new Option('--paper <paper>', 'of the sheet').choices(['A4', 'A3']).default('A4'))
  .action(async (original, results, options) =>
    (await import('./compare')).compare(original, results, options),
  );

const recipe = program.command('recipe').description("a shop's house recipes");
withData(recipe.command('list'))
  .description('says what recipes there are, for what, and how often they were used')
  .option('--json', 'one object on stdout')
  .action(async (options) => (await import('./recipe')).listRecipes(options));
withData(recipe.command('export'))
  .description('writes a recipe as JSON')
  .argument('<name>', 'what it is called, in any letters')
  .argument('[file]', 'stdout unless it is given')
  .action(async (name, file, options) =>
    (await import('./recipe')).exportRecipe(name, file, options),
  );
withData(recipe.command('import'))
  .description('keeps a recipe from a file: a new one, or a new version of the one of its name')
  .argument('<file>', 'of a house recipe or a treatment')
  .action(async (file, options) => (await import('./recipe')).importRecipe(file, options));

withData(program.command('record'))
  .description('says what a shop knows of a job: original, order, steps, files, approvals, prints')
  .argument('<job>', 'its number, as 0401')
  .option('--json', 'one object on stdout')
  .option('--pdf <file>', 'writes it as a PDF')
  .action(async (job, options) => (await import('./record')).record(job, options));

program
  .command('audit')
  .description("compares a shop's database, files and digests, and changes nothing")
  .argument('[folder]', "of the shop's data; LONTANO_DATA unless it is given")
  .option('--json', 'one object on stdout')
  .option('--grace <hours>', 'how old a file must be that no record names', Number, 24)
  .action(async (folder, options) => (await import('./audit')).auditShop(folder, options));

withData(program.command('backup'))
  .description('writes a whole shop into one archive, while work goes on')
  .argument('<archive>', 'a ZIP')
  .option(
    '--all-results',
    'with all results that are there, not only those that wait to be printed',
  )
  .option('--json', 'one object on stdout')
  .action(async (archive, options) => (await import('./backup')).backup(archive, options));

program
  .command('restore')
  .description('restores a shop from its archive')
  .argument('<archive>', 'that backup wrote')
  .argument('<folder>', 'for its data; empty, or not there yet')
  .option('--json', 'one object on stdout')
  .action(async (archive, folder, options) =>
    (await import('./backup')).restore(archive, folder, options),
  );

program
  .command('storage')
  .description("says what takes how much of a shop's disk, and when it may go")
  .argument('[folder]', "of the shop's data; LONTANO_DATA unless it is given")
  .option('--json', 'one object on stdout')
  .action(async (folder, options) => (await import('./backup')).storage(folder, options));

try {
  await program.parseAsync();
} catch (error) {
  if (error instanceof CommanderError) {
    // Help and version are no errors.
    if (error.exitCode !== 0)
      console.error(`lontano: ${error.message.replace(/^error: /, '').replace(/\s*\n\s*/g, ' ')}`);
    process.exitCode = error.exitCode === 0 ? 0 : EXIT.usage;
  } else {
    console.error(`lontano: ${error instanceof Problem ? error.message : inWords(error)}`);
    if (process.env.LONTANO_DEBUG) console.error(error);
    process.exitCode = error instanceof Problem ? EXIT[error.kind] : EXIT.work;
  }
}
