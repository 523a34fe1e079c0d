import { notFound } from 'next/navigation';
import { Bench } from '@/ui/bench/Bench';

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  if (!/^\d{1,9}$/.test(id)) notFound();
  return <Bench jobId={Number(id)} />;
}
