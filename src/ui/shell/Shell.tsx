'use client';

import Link from 'next/link';
import { usePathname } from 'next/navigation';
import type { ReactNode } from 'react';
import { processStore, processWords } from '../data/processes';
import { useShopEvents } from '../data/shop-events';
import { useSettings } from '../data/settings';
import { useSheet } from '../bench/shortcut-sheet-store';
import { Messages } from './Messages';
import { Queue } from './Queue';
import { TouchTips } from './TouchTips';
import { say } from '@/core/words/say';

/** The bar that every page stands under: where one is, what happened, what is being made. */
export function Shell({ children }: { children: ReactNode }) {
  const path = usePathname();
  useShopEvents();
  // Dialogs that begin by the shop's settings open at once.
  useSettings();
  return (
    <div className="shell">
      <header className="top-bar">
        <Link prefetch={false} href="/" className="word-mark">
          {say`Lontano`}
          <svg width="26" height="8" viewBox="0 0 26 8" aria-hidden>
            <path d="M0 4h24" stroke="var(--bottle)" strokeWidth="2" />
            <circle cx="23" cy="4" r="3" fill="var(--bottle)" />
          </svg>
        </Link>
        <nav aria-label={say`Pages`}>
          <Link prefetch={false} href="/" aria-current={path === '/' ? 'page' : undefined}>
            {say`Board`}
          </Link>
          {path.startsWith('/bench/') && (
            <Link prefetch={false} href={path} aria-current="page">
              {say`Bench`}
            </Link>
          )}
          {path.startsWith('/record/') && (
            <Link prefetch={false} href={path} aria-current="page">
              {say`Record`}
            </Link>
          )}
          <Link
            prefetch={false}
            href="/batches"
            aria-current={path.startsWith('/batches') ? 'page' : undefined}
          >
            {say`Batches`}
          </Link>
          <Link
            prefetch={false}
            href="/recipes"
            aria-current={path === '/recipes' ? 'page' : undefined}
          >
            {say`Recipes`}
          </Link>
          <Link
            prefetch={false}
            href="/shop"
            aria-current={path.startsWith('/shop') ? 'page' : undefined}
          >
            {say`Shop`}
          </Link>
        </nav>
        {path.startsWith('/bench/') && (
          <button
            type="button"
            className="keys-hint"
            onClick={() => useSheet.setState({ open: true })}
          >
            {say`Keys`} <kbd>?</kbd>
          </button>
        )}
        <Messages />
        <Queue />
      </header>
      <ProcessLine />
      {children}
      <TouchTips />
    </div>
  );
}

/** What is wrong with the shop itself, while it is. */
function ProcessLine() {
  const words = processStore(processWords);
  return words ? (
    <p className="process-line" role="status">
      {words}
    </p>
  ) : null;
}
