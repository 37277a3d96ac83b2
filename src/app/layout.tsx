import '@fontsource-variable/hanken-grotesk/index.css';
import '@fontsource-variable/bricolage-grotesque/standard.css';
import '@fontsource-variable/sometype-mono/index.css';
import '@mantine/core/styles.css';
import '@mantine/dates/styles.css';
import '@/ui/theme/tokens.css';
import { ColorSchemeScript, mantineHtmlProps } from '@mantine/core';
import type { Metadata } from 'next';
import { headers } from 'next/headers';
import { Suspense, type ReactNode } from 'react';
import { pulse } from '@/desk/house/pulse';
import { theHouse } from '@/desk/house/the-house';
import { zonesOf } from '@/desk/house/zones-of';
import { Shell } from '@/ui/shell/Shell';
import { HaveZones } from '@/ui/zones/HaveZones';
import { ThemeProvider } from '@/ui/theme/ThemeProvider';
import { moveClockAction } from './clock-action';

export const metadata: Metadata = {
  title: { default: 'Nuntiax', template: '%s · Nuntiax' },
  description: 'One record an event; every channel in step.',
};
export const dynamic = 'force-dynamic';

export default async function RootLayout({ children }: { children: ReactNode }) {
  const first = await pulse(theHouse());
  const nonce = (await headers()).get('x-nonce') ?? undefined;
  return (
    <html lang="en" {...mantineHtmlProps}>
      <head>
        <ColorSchemeScript defaultColorScheme="auto" nonce={nonce} />
      </head>
      <body>
        <ThemeProvider>
          <HaveZones zones={zonesOf(first)}>
            <Shell pulse={first} moveClock={moveClockAction}>
              <Suspense>{children}</Suspense>
            </Shell>
          </HaveZones>
        </ThemeProvider>
      </body>
    </html>
  );
}
