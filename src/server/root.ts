import { resolve } from 'node:path';

/** The project's own folder, where threads find their code; bundled code can't tell by itself. */
export const root = (): string =>
  resolve(/* turbopackIgnore: true */ process.env.LONTANO_ROOT ?? process.cwd());
