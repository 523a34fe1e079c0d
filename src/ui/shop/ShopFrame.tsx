'use client';

import Link from 'next/link';
import { usePathname } from 'next/navigation';
import type { ReactNode } from 'react';
import { say } from '@/core/words/say';

const PARTS = [
  { path: '/shop', words: say`How it stands` },
  { path: '/shop/settings', words: say`Settings` },
  { path: '/shop/storage', words: say`Storage` },
  { path: '/shop/backup', words: say`Backup` },
];

/** What the pages of the shop share: its name, and the way from one to the other. */
export function ShopFrame({ children }: { children: ReactNode }) {
  const path = usePathname();
  return (
    <main className="shop-page">
      <header>
        <h1>{say`The shop`}</h1>
        <nav aria-label={say`Parts of the shop`}>
          {PARTS.map((part) => (
            <Link
              key={part.path}
              prefetch={false}
              href={part.path}
              aria-current={path === part.path ? 'page' : undefined}
            >
              {part.words}
            </Link>
          ))}
        </nav>
      </header>
      {children}
    </main>
  );
}
