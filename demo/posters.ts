import sharp from 'sharp';

/** The colours and the figure of one act's poster. */
interface PosterPlan {
  context: string;
  ink: string;
  glow: string;
  /** What the poster is made of. */
  figure: 'strings' | 'moon' | 'beams' | 'lanterns' | 'steps' | 'waves' | 'stacks' | 'letters';
  tall?: boolean;
}

const plans: Record<string, PosterPlan> = {
  'TY-101': { context: '#1c3d3a', ink: '#cfd8d0', glow: '#e2b04a', figure: 'strings' },
  'TY-102': { context: '#181028', ink: '#7a3fd0', glow: '#f26a4b', figure: 'stacks' },
  'TY-103': { context: '#23202a', ink: '#8f98a3', glow: '#f3e7c4', figure: 'beams' },
  'TY-104': { context: '#10182c', ink: '#31466e', glow: '#f5c869', figure: 'lanterns' },
  'TY-105': { context: '#7b2d4c', ink: '#e9b7a0', glow: '#f6d979', figure: 'steps' },
  'YS-01': { context: '#12233f', ink: '#446a9e', glow: '#f7efd2', figure: 'moon' },
  'TY-108': { context: '#30403a', ink: '#98ad9d', glow: '#e3dcc6', figure: 'strings', tall: true },
  'TY-109': { context: '#0d3a4a', ink: '#3f8aa0', glow: '#eadfc8', figure: 'waves' },
  'TY-110': { context: '#e7dcc8', ink: '#a4452c', glow: '#3a2b22', figure: 'letters' },
  'TY-111': { context: '#2a0f22', ink: '#c23f7a', glow: '#f6c04a', figure: 'stacks' },
  'TY-113': { context: '#f0e2c4', ink: '#c4622d', glow: '#8a2f1d', figure: 'lanterns' },
  SS: { context: '#17303a', ink: '#5f8f97', glow: '#f0e9dc', figure: 'waves' },
};

/** A small deterministic source of numbers between 0 and 1, so that a poster is the same each time. */
function numbers(seed: string): () => number {
  let state = [...seed].reduce((sum, c) => (sum * 31 + c.charCodeAt(0)) >>> 0, 7);
  return () => {
    state = (state * 1_664_525 + 1_013_904_223) >>> 0;
    return state / 0x1_0000_0000;
  };
}

function figureSvg(plan: PosterPlan, w: number, h: number, next: () => number): string {
  const times = (n: number, draw: (i: number) => string) => Array.from({ length: n }, (_, i) => draw(i)).join('');
  const { ink, glow } = plan;
  switch (plan.figure) {
    case 'strings':
      return times(
        34,
        (i) =>
          `<path d="M${(i / 34) * w * 1.1 - w * 0.05} ${h * 0.05} Q ${w * (0.3 + next() * 0.4)} ${h * 0.55} ${w * 0.62} ${h * (0.3 + i * 0.02)}" stroke="${i % 7 === 3 ? glow : ink}" stroke-width="${3 + next() * 5}" fill="none" opacity="0.8"/>`,
      );
    case 'moon':
      return (
        `<circle cx="${w * 0.68}" cy="${h * 0.42}" r="${h * 0.27}" fill="${glow}"/><circle cx="${w * 0.61}" cy="${h * 0.36}" r="${h * 0.24}" fill="${plan.context}" opacity="0.35"/>` +
        times(
          4,
          (i) =>
            `<rect x="${w * 0.08}" y="${h * (0.52 + i * 0.11)}" width="${w * (0.5 + next() * 0.2)}" height="${h * 0.075}" fill="${ink}"/>`,
        )
      );
    case 'beams':
      return (
        times(
          9,
          (i) =>
            `<path d="M${w * 0.12} ${h * 0.5} L ${w * 1.05} ${h * (i * 0.12 - 0.02)} L ${w * 1.05} ${h * (i * 0.12 + 0.05)} Z" fill="${i % 2 ? glow : ink}" opacity="${0.35 + next() * 0.4}"/>`,
        ) + `<circle cx="${w * 0.12}" cy="${h * 0.5}" r="${h * 0.09}" fill="${glow}"/>`
      );
    case 'lanterns':
      return times(14, () => {
        const [x, y, r] = [w * next(), h * (0.15 + next() * 0.7), h * (0.03 + next() * 0.07)];
        return `<circle cx="${x}" cy="${y}" r="${r * 2.4}" fill="${glow}" opacity="0.13"/><rect x="${x - r * 0.6}" y="${y - r}" width="${r * 1.2}" height="${r * 2}" fill="${next() > 0.5 ? glow : ink}"/>`;
      });
    case 'steps':
      return times(
        26,
        (i) =>
          `<ellipse cx="${w * (0.05 + (i % 13) * 0.075)}" cy="${h * (0.25 + Math.floor(i / 13) * 0.4 + next() * 0.2)}" rx="${w * 0.016}" ry="${h * 0.07}" transform="rotate(${next() * 70 - 35} ${w * (0.05 + (i % 13) * 0.075)} ${h * 0.45})" fill="${i % 3 ? ink : glow}"/>`,
      );
    case 'waves':
      return times(
        12,
        (i) =>
          `<path d="M0 ${h * (0.24 + i * 0.07)} C ${w * 0.25} ${h * (0.12 + i * 0.07 + next() * 0.1)}, ${w * 0.5} ${h * (0.34 + i * 0.07)}, ${w} ${h * (0.2 + i * 0.07 + next() * 0.08)}" stroke="${i % 4 === 1 ? glow : ink}" stroke-width="${h * 0.014}" fill="none"/>`,
      );
    case 'stacks':
      return times(
        11,
        (i) =>
          `<rect x="${w * (0.04 + i * 0.087)}" y="${h * (0.9 - next() * 0.75)}" width="${w * 0.06}" height="${h}" fill="${i % 4 === 2 ? glow : ink}" opacity="${0.6 + next() * 0.4}"/>`,
      );
    case 'letters':
      return times(9, (i) => {
        const [x, y] = [
          w * (0.05 + (i % 3) * 0.31 + next() * 0.04),
          h * (0.1 + Math.floor(i / 3) * 0.29 + next() * 0.05),
        ];
        return `<g transform="rotate(${next() * 12 - 6} ${x} ${y})"><rect x="${x}" y="${y}" width="${w * 0.24}" height="${h * 0.2}" fill="none" stroke="${i === 4 ? ink : glow}" stroke-width="7"/><path d="M${x} ${y} l ${w * 0.12} ${h * 0.11} l ${w * 0.12} ${-h * 0.11}" fill="none" stroke="${i === 4 ? ink : glow}" stroke-width="7"/></g>`;
      });
  }
}

/** Grounds, inks and glows for acts that have no colours of their own in the table. */
const palettes = [
  ['#20303c', '#7fa0a8', '#f0d9a8'],
  ['#3b2230', '#b98a94', '#f4c46a'],
  ['#e9e0cc', '#5d6b4e', '#b5482a'],
  ['#14232b', '#4f7d86', '#e8e2cf'],
  ['#2d2a18', '#a79a5c', '#f2eac0'],
  ['#42201a', '#c07a5a', '#f7d9a0'],
  ['#dfe6e2', '#3f6d6a', '#c2562d'],
  ['#1e1a30', '#8076b8', '#f0b6a0'],
] as const;
const figures = ['strings', 'moon', 'beams', 'lanterns', 'steps', 'waves', 'stacks', 'letters'] as const;

function planOf(reference: string): PosterPlan {
  const known = plans[reference] ?? (reference.startsWith('SS-') ? plans.SS : undefined);
  if (known) return known;
  const n = Number(reference.replace(/\D/g, '')) || 0;
  const [context, ink, glow] = palettes[n % palettes.length] ?? palettes[0];
  return { context, ink, glow, figure: figures[(n * 3) % figures.length] ?? 'waves' };
}

/** One drawn poster. */
export interface Poster {
  bytes: Buffer;
  alt: string;
  /** Lies across. */
  wide: boolean;
}

/**
 * Draws the poster of a row of the demo files (by its reference), as JPEG: lying, and standing too where `both` says
 * so.
 */
export async function drawPosters(reference: string, both: boolean): Promise<Poster[]> {
  const plan = planOf(reference);
  const shapes = plan.tall ? [false] : both ? [true, false] : [true];
  return Promise.all(
    shapes.map(async (wide) => {
      const [w, h] = wide ? [2400, 1600] : [1400, 2100];
      const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${w}" height="${h}"><rect width="${w}" height="${h}" fill="${plan.context}"/>${figureSvg(plan, w, h, numbers(reference.slice(0, 2) === 'SS' ? 'SS' : reference))}</svg>`;
      const bytes = await sharp(Buffer.from(svg)).jpeg({ quality: 86 }).toBuffer();
      return {
        bytes,
        alt: `Abstract poster of ${plan.figure}, drawn in the act's own colours`,
        wide,
      };
    }),
  );
}

/** The house's mark: a lamp on a shelf, as a PNG. */
export function drawLogo(): Promise<Buffer> {
  const lamp = `<svg xmlns="http://www.w3.org/2000/svg" width="800" height="800" viewBox="0 0 80 80">
    <rect width="80" height="80" fill="#fbf4e6"/>
    <path d="M14 62h52v5H14z" fill="#2b2320"/>
    <path d="M24 46h32q0 14-16 14T24 46z" fill="#7b2d4c"/>
    <path d="M56 48q12-2 11-11l-5 1q0 6-7 6z" fill="#7b2d4c"/>
    <path d="M40 12q11 14 5 26-2 5-5 5t-5-5q-6-12 5-26z" fill="#d9952b"/>
  </svg>`;
  return sharp(Buffer.from(lamp)).png().toBuffer();
}
