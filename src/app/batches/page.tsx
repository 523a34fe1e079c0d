import { BatchesPage } from '@/ui/batch/BatchesPage';

export default function Page() {
  return <BatchesPage />;
}
