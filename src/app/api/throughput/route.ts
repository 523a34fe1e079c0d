import { readThroughput } from '@/server/db/throughput';
import { route } from '@/server/http/route';

export const GET = route(({ db }) => readThroughput(db));
