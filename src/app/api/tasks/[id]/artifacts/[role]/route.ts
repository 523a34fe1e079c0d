import { formatOf, formatOfName } from '@/core/output/formats';
import { artifactPath, readTask } from '@/server/db/tasks';
import { store } from '@/server/files/store';
import { fileAnswer } from '@/server/http/file-answer';
import { route } from '@/server/http/route';
import { Problem } from '@/server/problem';

/** What is no picture: a sheet, or an archive of panels. */
const otherType = (name: string): string =>
  name.endsWith('.pdf')
    ? 'application/pdf'
    : name.endsWith('.zip')
      ? 'application/zip'
      : 'application/octet-stream';

/** A file that a task made, streamed under its own name. */
export const GET = route<{ id: string; role: string }>(
  async ({ db, request, params: { id, role } }) => {
    const { artifacts } = await readTask(db, id);
    const made = artifacts.find((one) => one.role === role);
    if (!made) throw new Problem('missing', 'This run has no file: it is not done.');
    const cleared = new Problem(
      'missing',
      'The file of this run was cleared away to make room. Run the trial again; it gives the same bytes.',
    );
    const path = await artifactPath(db, id, role);
    if (!path) throw cleared;
    const format = formatOfName(made.fileName);
    return fileAnswer(request, store.named(path), {
      fileName: made.fileName,
      mediaType: format ? formatOf(format).mediaType : otherType(made.fileName),
      digest: made.digest,
    }).catch(() => {
      throw cleared;
    });
  },
);
