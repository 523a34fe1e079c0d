import type { ReactNode } from 'react';
import { ShopFrame } from '@/ui/shop/ShopFrame';

export default function Layout({ children }: { children: ReactNode }) {
  return <ShopFrame>{children}</ShopFrame>;
}
