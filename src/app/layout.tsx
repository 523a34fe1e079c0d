import '@fontsource-variable/archivo/standard.css';
import '@fontsource-variable/spline-sans-mono/index.css';
import '@/ui/theme/theme.scss';
import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import { Providers } from '@/ui/shell/Providers';
import { headers } from 'next/headers';
import { config } from '@/server/config';
import { readWords, wordsScript } from '@/server/web/words';
import { Shell } from '@/ui/shell/Shell';

// Every page carries a nonce of its own for its inline scripts, so none is made beforehand.
export const dynamic = 'force-dynamic';

export const metadata: Metadata = { title: 'Lontano' };

/** A shop's own words are said from the first line on; a page learns them before any of its own scripts run. */
const words = readWords(config().data);

export default async function Layout({ children }: { children: ReactNode }) {
  const policy = (await headers()).get('content-security-policy');
  const nonce = /'nonce-([^']+)'/.exec(policy ?? '')?.[1];
  return (
    <html lang="en">
      <head>
        <script nonce={nonce} dangerouslySetInnerHTML={{ __html: wordsScript(words) }} />
      </head>
      <body>
        <Providers>
          <Shell>{children}</Shell>
        </Providers>
      </body>
    </html>
  );
}
