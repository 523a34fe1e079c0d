import { notFound } from 'next/navigation';
import { z } from 'zod';
import { database } from '@/server/db/connection';
import { isOnBoard } from '@/server/db/jobs';
import { Bench } from '@/ui/bench/Bench';

/** A picture of the job, and one of its trials; what can't be read asks for none. */
const Asked = z
  .object({ piece: z.coerce.number().int().positive(), trial: z.string().max(40).optional() })
  .optional()
  .catch(undefined);

export default async function Page({
  params,
  searchParams,
}: {
  params: Promise<{ id: string }>;
  searchParams: Promise<unknown>;
}) {
  const { id } = await params;
  if (!/^\d{1,9}$/.test(id) || !(await isOnBoard(await database(), Number(id)))) notFound();
  return <Bench jobId={Number(id)} asked={Asked.parse(await searchParams) ?? {}} />;
}
