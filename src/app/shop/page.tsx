import { ShopPage } from '@/ui/shop/ShopPage';

export default function Page() {
  return <ShopPage />;
}
