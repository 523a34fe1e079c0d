import { notFound } from 'next/navigation';
import { database } from '@/server/db/connection';
import { isOnBoard } from '@/server/db/jobs';
import { Bench } from '@/ui/bench/Bench';

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  if (!/^\d{1,9}$/.test(id) || !(await isOnBoard(await database(), Number(id)))) notFound();
  return <Bench jobId={Number(id)} />;
}
