import { StoragePage } from '@/ui/shop/storage/StoragePage';

export default function Page() {
  return <StoragePage />;
}
