import '@fontsource-variable/archivo/standard.css';
import '@fontsource-variable/spline-sans-mono/index.css';
import '@/ui/theme/theme.scss';
import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import { Providers } from '@/ui/shell/Providers';
import { Shell } from '@/ui/shell/Shell';

// Every page carries a nonce of its own for its inline scripts, so none is made beforehand.
export const dynamic = 'force-dynamic';

export const metadata: Metadata = { title: 'Lontano' };

export default function Layout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>
        <Providers>
          <Shell>{children}</Shell>
        </Providers>
      </body>
    </html>
  );
}
