import { whoAsks } from '@/app/who-asks';
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
import { meOf } from '@/desk/people/me';
import { HaveMe } from '@/ui/may/May';
import { Shell } from '@/ui/shell/Shell';
import { HaveZones } from '@/ui/zones/HaveZones';
import { ThemeProvider } from '@/ui/theme/ThemeProvider';
import { moveClockAction } from './clock-action';

export const metadata: Metadata = {
  title: { default: 'Nuntiax', template: '%s · Nuntiax' },
  description: 'One record an event; every channel in step.',
};
export const dynamic = 'force-dynamic';

/** The frame of the desk for whoever is signed in; the ways in stand by themselves. */
async function Frame({ children }: { children: ReactNode }) {
  const doer = await whoAsks();
  if (doer === null) return children;
  const house = theHouse();
  const first = await pulse(house, doer);
  return (
    <HaveMe me={meOf(house, doer)}>
      <HaveZones zones={zonesOf(first)}>
        <Shell pulse={first} moveClock={moveClockAction}>
          <Suspense>{children}</Suspense>
        </Shell>
      </HaveZones>
    </HaveMe>
  );
}

export default async function RootLayout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get('x-nonce') ?? undefined;
  return (
    <html lang="en" {...mantineHtmlProps}>
      <head>
        <ColorSchemeScript defaultColorScheme="auto" nonce={nonce} />
      </head>
      <body>
        <ThemeProvider>
          <Frame>{children}</Frame>
        </ThemeProvider>
      </body>
    </html>
  );
}
