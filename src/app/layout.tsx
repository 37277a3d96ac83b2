import '@fontsource-variable/hanken-grotesk/index.css';
import '@fontsource-variable/bricolage-grotesque/standard.css';
import '@fontsource-variable/sometype-mono/index.css';
import '@mantine/core/styles.css';
import '@mantine/dates/styles.css';
import '@/ui/theme/tokens.css';
import { ColorSchemeScript, mantineHtmlProps } from '@mantine/core';
import type { Metadata } from 'next';
import { Suspense, type ReactNode } from 'react';
import { pulse } from '@/desk/house/pulse';
import { channelList } from '@/desk/channels/channels-view';
import { theHouse } from '@/desk/house/the-house';
import { Shell } from '@/ui/shell/Shell';
import { ChannelsProvider } from '@/ui/use-channels';
import { ThemeProvider } from '@/ui/theme/ThemeProvider';
import { moveClockAction } from './clock-action';

export const metadata: Metadata = { description: 'One record an event; every channel in step.' };
export const dynamic = 'force-dynamic';

export default async function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en" {...mantineHtmlProps}>
      <head>
        <title>Nuntiax</title>
        <ColorSchemeScript defaultColorScheme="auto" />
      </head>
      <body>
        <ThemeProvider>
          <Shell pulse={await pulse(theHouse())} moveClock={moveClockAction}>
            <ChannelsProvider rows={channelList(theHouse()).map((channel) => channel.row)}>
              <Suspense>{children}</Suspense>
            </ChannelsProvider>
          </Shell>
        </ThemeProvider>
      </body>
    </html>
  );
}
