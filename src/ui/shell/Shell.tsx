'use client';

import Link from 'next/link';
import { usePathname } from 'next/navigation';
import type { ReactNode } from 'react';
import { Toast, ToastContainer } from 'react-bootstrap';
import { processStore, processWords } from '../data/processes';
import { useNotices } from '../data/notices';
import { useShopEvents } from '../data/queries';
import { Queue } from './Queue';

/** The bar that every page stands under, and the notices that appear over it. */
export function Shell({ children }: { children: ReactNode }) {
  const path = usePathname();
  useShopEvents();
  return (
    <div className="shell">
      <header className="top-bar">
        <Link href="/" className="word-mark">
          Lontano
          <svg width="26" height="8" viewBox="0 0 26 8" aria-hidden>
            <path d="M0 4h24" stroke="var(--bottle)" strokeWidth="2" />
            <circle cx="23" cy="4" r="3" fill="var(--bottle)" />
          </svg>
        </Link>
        <nav aria-label="Pages">
          <Link href="/" aria-current={path === '/' ? 'page' : undefined}>
            Board
          </Link>
          {path.startsWith('/bench/') && (
            <Link href={path} aria-current="page">
              Bench
            </Link>
          )}
          <Link href="/shop" aria-current={path === '/shop' ? 'page' : undefined}>
            Shop
          </Link>
        </nav>
        <Queue />
      </header>
      <ProcessLine />
      {children}
      <NoticeList />
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

const TONES = { good: 'Done. ', trouble: 'Trouble. ', note: '' } as const;

function NoticeList() {
  const { list, dismiss } = useNotices();
  return (
    <ToastContainer className="notices" aria-live="polite">
      {list.map(({ id, text, tone, action }) => (
        <Toast
          key={id}
          onClose={() => dismiss(id)}
          autohide={tone !== 'trouble'}
          delay={action ? 15_000 : 6000}
        >
          <Toast.Body className="d-flex gap-3 align-items-start">
            <span>
              <b className={tone}>{TONES[tone]}</b>
              {text}{' '}
              {action && (
                <button
                  type="button"
                  className="btn btn-link p-0 align-baseline"
                  onClick={() => {
                    action.act();
                    dismiss(id);
                  }}
                >
                  {action.words}
                </button>
              )}
            </span>
            <button
              type="button"
              className="btn-close ms-auto"
              aria-label="Put away"
              onClick={() => dismiss(id)}
            />
          </Toast.Body>
        </Toast>
      ))}
    </ToastContainer>
  );
}
