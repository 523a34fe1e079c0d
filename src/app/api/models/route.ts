import { usableModels } from '@/server/files/models';
import { route } from '@/server/http/route';

/** Which learned models can be used. */
export const GET = route(() => usableModels());
