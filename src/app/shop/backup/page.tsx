import { BackupPage } from '@/ui/shop/backup/BackupPage';

export default function Page() {
  return <BackupPage />;
}
