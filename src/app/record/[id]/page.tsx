import { notFound } from 'next/navigation';
import { database } from '@/server/db/connection';
import { Problem } from '@/server/problem';
import { recordOfAny } from '@/server/record/gone';
import { RecordPage } from '@/ui/record/RecordPage';

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  if (!/^\d{1,9}$/.test(id)) notFound();
  const record = await recordOfAny(await database(), Number(id)).catch((error: unknown) => {
    if (error instanceof Problem && error.kind === 'missing') notFound();
    throw error;
  });
  return <RecordPage record={record} />;
}
