import { notFound } from 'next/navigation';
import { BatchPage } from '@/ui/batch/BatchPage';

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  if (!/^\d{1,9}$/.test(id)) notFound();
  return <BatchPage id={Number(id)} />;
}
