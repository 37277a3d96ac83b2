import { parseDocument } from 'htmlparser2';
import { lately } from '../base/lately';
import { escapeHtml } from './escape-html';
import { isBullet, isListParagraph, isNumber, isUnseen, marksWithin } from './markup-style';

type Node = ReturnType<typeof parseDocument>['children'][number];

/** A stretch of text with its marks. */
interface Run {
  text: string;
  strong?: true;
  em?: true;
  href?: string;
}

/** On which side of the text a picture in it stands. */
export const figureSides = ['left', 'right', 'full'] as const;
/** How much of the text's width a picture in it takes. */
export const figureSizes = ['small', 'half', 'whole'] as const;

/** A picture within the text. */
export interface Figure {
  /** The record's picture (SHA-256 in hex); where it is shown on a channel, the file's name there. */
  picture: string;
  side: (typeof figureSides)[number];
  size: (typeof figureSizes)[number];
  caption: string;
  /** What it shows, for those who cannot see it; empty in a record, where the picture itself says it. */
  alt: string;
  /** What it leads to when it is clicked. */
  href: string | null;
}

/** A block of rich text: the record's whole set. */
export type Block =
  | { kind: 'paragraph' | 'heading' | 'quote'; runs: Run[] }
  | { kind: 'list'; ordered: boolean; items: Run[][] }
  | { kind: 'figure'; figure: Figure };

const blockTags = new Set([
  'p',
  'div',
  'section',
  'article',
  'h1',
  'h2',
  'h3',
  'h4',
  'h5',
  'h6',
  'blockquote',
  'ul',
  'ol',
  'table',
  'tr',
  'pre',
]);
/** Cells of a row stand apart by a space. */
const cellTags = new Set(['td', 'th']);
const silentTags = new Set(['script', 'style', 'head', 'title', 'template', 'noscript', 'iframe', 'object', 'svg']);
const maxDepth = 60;

/**
 * Reads HTML (or plain text with blank lines between paragraphs) into the record's set of blocks. Everything
 * outside the set is left out; text is kept. Bounded: what is nested deeper than 60 levels is read as plain text.
 */
export function readMarkup(html: string): Block[] {
  const reader = new Reader();
  reader.children(parseDocument(html).children, {}, 0);
  reader.close();
  return reader.blocks.filter((block) => {
    if (block.kind === 'figure') return true;
    return block.kind === 'list' ? block.items.length > 0 : wordsOf(block.runs).trim() !== '';
  });
}

const figurePicture = /^[\w.-]{1,160}$/;
const mostCaption = 400;

type Marks = Omit<Run, 'text'>;

class Reader {
  blocks: Block[] = [];
  private open: Run[] = [];
  private kind: 'paragraph' | 'heading' | 'quote' = 'paragraph';

  close(): void {
    const runs = tidy(this.open);
    if (runs.length > 0) this.blocks.push({ kind: this.kind, runs });
    this.open = [];
  }

  children(nodes: readonly Node[], marks: Marks, depth: number, before = ''): void {
    if (before !== '') this.open.push({ text: before });
    for (const node of nodes) this.node(node, marks, depth);
  }

  private node(node: Node, marks: Marks, depth: number): void {
    if (node.type === 'text') {
      this.open.push({ text: node.data, ...marks });
      return;
    }
    if (!('children' in node) || !('name' in node) || silentTags.has(node.name)) return;
    const { name, attribs } = node;
    if (isUnseen(attribs)) return;
    if (depth > maxDepth) this.open.push({ text: textWithin(node), ...marks });
    else if (isListParagraph(name, attribs))
      this.listParagraph(node.children as Node[], textOfBullet(node), marks, depth);
    else this.element(name, attribs, node.children as Node[], marks, depth);
  }

  private element(name: string, attribs: Record<string, string>, nodes: Node[], around: Marks, depth: number): void {
    const marks = { ...marksWithin(around, name, attribs), ...linkOf(name, attribs) };
    if (name === 'figure' && figurePicture.test(attribs['data-picture'] ?? '')) this.figure(attribs, nodes);
    else if (name === 'br') this.open.push(lineBreak);
    else if (name === 'ul' || name === 'ol') this.list(nodes, name === 'ol', depth);
    else if (cellTags.has(name)) this.children(nodes, marks, depth + 1, ' ');
    else if (blockTags.has(name)) this.block(name, nodes, marks, depth);
    else this.children(nodes, marks, depth + 1);
  }

  private figure(attribs: Record<string, string>, nodes: Node[]): void {
    this.close();
    const inner = new Reader();
    inner.children(nodes, {}, 1);
    inner.close();
    const caption = inner.blocks.map((block) => ('runs' in block ? wordsOf(block.runs) : '')).join(' ');
    this.blocks.push({
      kind: 'figure',
      figure: {
        picture: attribs['data-picture'] ?? '',
        side: figureSides.find((side) => side === attribs['data-side']) ?? 'full',
        size: figureSizes.find((size) => size === attribs['data-size']) ?? 'whole',
        caption: caption.replace(/\s+/g, ' ').trim().slice(0, mostCaption),
        alt: (attribs['data-alt'] ?? '').slice(0, mostCaption),
        href: linkOf('a', { href: attribs['data-href'] ?? '' }).href ?? null,
      },
    });
  }

  private block(name: string, nodes: Node[], marks: Marks, depth: number): void {
    this.close();
    const before = this.kind;
    if (/^h[1-6]$/.test(name)) this.kind = 'heading';
    else if (name === 'blockquote') this.kind = 'quote';
    this.children(nodes, marks, depth + 1);
    this.close();
    this.kind = before;
  }

  /** An item that stands as a paragraph of its own: it joins the list just before it. */
  private listParagraph(nodes: Node[], bullet: string, marks: Marks, depth: number): void {
    this.close();
    const ordered = isNumber(bullet);
    const inner = new Reader();
    inner.children(nodes, marks, depth + 1);
    inner.close();
    const last = this.blocks[this.blocks.length - 1];
    if (last?.kind === 'list' && last.ordered === ordered) last.items.push(...itemsOf(inner.blocks));
    else this.blocks.push({ kind: 'list', ordered, items: itemsOf(inner.blocks) });
  }

  private list(nodes: Node[], ordered: boolean, depth: number): void {
    this.close();
    const items: Run[][] = [];
    for (const node of nodes) {
      const isItem = 'children' in node && 'name' in node && node.name === 'li';
      const inner = new Reader();
      inner.children(isItem ? (node.children as Node[]) : [node], {}, depth + 1);
      inner.close();
      items.push(...itemsOf(inner.blocks));
    }
    if (items.length > 0) this.blocks.push({ kind: 'list', ordered, items });
  }
}

/** Blocks inside a list item as items: its paragraphs stay one item, in lines; a list within becomes items after it. */
function itemsOf(blocks: readonly Block[]): Run[][] {
  const items: Run[][] = [];
  let open: Run[] = [];
  const close = () => {
    if (wordsOf(open).trim() !== '') items.push(open);
    open = [];
  };
  for (const block of blocks) {
    if (block.kind === 'figure') continue;
    if (block.kind === 'list') {
      close();
      items.push(...block.items);
    } else open = open.length === 0 ? block.runs : [...open, { text: '\n' }, ...block.runs];
  }
  close();
  return items.map(joined);
}

/** Runs with equal neighbours joined. */
function joined(runs: readonly Run[]): Run[] {
  const out: Run[] = [];
  for (const run of runs) append(out, run);
  return out;
}

function append(out: Run[], run: Run): void {
  const last = out[out.length - 1];
  if (last && last.strong === run.strong && last.em === run.em && last.href === run.href) last.text += run.text;
  else out.push({ ...run });
}

function linkOf(name: string, { href = '' }: Record<string, string>): Pick<Marks, 'href'> {
  return name === 'a' && /^(https?:|mailto:)/i.test(href) ? { href } : {};
}

/** All elements and texts within a node, in order, without recursion: a deep nest is no danger. */
function* within(root: Node): Generator<Node> {
  const stack: Node[] = [root];
  for (let node = stack.pop(); node; node = stack.pop()) {
    yield node;
    if ('children' in node && !('name' in node && silentTags.has(node.name)))
      for (let i = node.children.length - 1; i >= 0; i -= 1) stack.push(node.children[i] as Node);
  }
}

function textWithin(root: Node): string {
  let text = '';
  for (const node of within(root)) if (node.type === 'text') text += node.data;
  return text;
}

function textOfBullet(root: Node): string {
  for (const node of within(root)) if ('attribs' in node && isBullet(node.attribs)) return textWithin(node);
  return '';
}

/**
 * Folds white space (across runs too), joins equal neighbours and trims the ends and every line, so that equal
 * meaning gives equal runs. A line break carries no marks.
 */
function tidy(runs: readonly Run[]): Run[] {
  const out: Run[] = [];
  let space: Run | null = null;
  let breaks = 0;
  for (const run of runs) {
    for (const piece of run === lineBreak ? ['\n'] : run.text.split(/([\s\u00a0]+)/)) {
      if (piece === '') continue;
      if (run === lineBreak) breaks += 1;
      else if (/^[\s\u00a0]/.test(piece)) space ??= { ...run, text: ' ' };
      else {
        if (out.length > 0 && breaks > 0) append(out, { text: '\n'.repeat(breaks) });
        else if (out.length > 0 && space) append(out, space);
        append(out, { ...run, text: piece });
        space = null;
        breaks = 0;
      }
    }
  }
  return out;
}

/** A line break, as it is met while reading; everything else that is white space is folded. */
const lineBreak: Run = { text: '\n' };

function wordsOf(runs: readonly Run[]): string {
  return runs.map((run) => run.text).join('');
}

function runHtml(run: Run): string {
  let html = escapeHtml(run.text).replaceAll('\n', '<br>');
  if (run.em) html = `<em>${html}</em>`;
  if (run.strong) html = `<strong>${html}</strong>`;
  return run.href === undefined ? html : `<a href="${escapeHtml(run.href)}">${html}</a>`;
}

const runsHtml = (runs: readonly Run[]) => runs.map(runHtml).join('');

/** Blocks as HTML of the record's set. `writeHtml(readMarkup(x))` is the canonical form of `x`. */
export function writeHtml(blocks: readonly Block[]): string {
  return blocks
    .map((block) => {
      switch (block.kind) {
        case 'paragraph':
          return `<p>${runsHtml(block.runs)}</p>`;
        case 'heading':
          return `<h3>${runsHtml(block.runs)}</h3>`;
        case 'quote':
          return `<blockquote><p>${runsHtml(block.runs)}</p></blockquote>`;
        case 'list': {
          const tag = block.ordered ? 'ol' : 'ul';
          return `<${tag}>${block.items.map((item) => `<li>${runsHtml(item)}</li>`).join('')}</${tag}>`;
        }
        case 'figure':
          return figureHtml(block.figure);
      }
    })
    .join('');
}

function figureHtml({ picture, side, size, caption, alt, href }: Figure): string {
  const shows = alt === '' ? '' : ` data-alt="${escapeHtml(alt)}"`;
  const leads = href === null ? '' : ` data-href="${escapeHtml(href)}"`;
  return `<figure data-picture="${escapeHtml(picture)}" data-side="${side}" data-size="${size}"${shows}${leads}><figcaption>${escapeHtml(caption)}</figcaption></figure>`;
}

/** Blocks without the pictures in them, for channels that show none. */
export function withoutFigures(blocks: readonly Block[]): Block[] {
  return blocks.filter((block) => block.kind !== 'figure');
}

/** Blocks with each soft break made into what a channel makes of it: a blank, or a new paragraph. */
export function softBreaks(blocks: readonly Block[], become: 'blank' | 'paragraph'): Block[] {
  const blank = (runs: readonly Run[]) => runs.map((run) => ({ ...run, text: run.text.replace(/\n+/g, ' ') }));
  return blocks.flatMap<Block>((block) => {
    if (block.kind === 'figure') return [block];
    if (block.kind === 'list') return [{ ...block, items: block.items.map(blank) }];
    if (become === 'blank') return [{ ...block, runs: blank(block.runs) }];
    const parts: Run[][] = [[]];
    for (const run of block.runs)
      run.text.split(/\n+/).forEach((text, i) => {
        if (i > 0) parts.push([]);
        if (text !== '') parts[parts.length - 1]?.push({ ...run, text });
      });
    return parts.filter((runs) => runs.length > 0).map((runs) => ({ ...block, runs }));
  });
}

/** Blocks as paragraphs only, for channels without headings, quotes, lists and pictures; items keep their marks. */
export function flattenBlocks(blocks: readonly Block[]): Block[] {
  return blocks.flatMap<Block>((block) => {
    if (block.kind === 'figure') return [];
    if (block.kind === 'list') {
      return block.items.map((item, i) => ({
        kind: 'paragraph',
        runs: [{ text: listMark(block.ordered, i) }, ...item],
      }));
    }
    if (block.kind === 'heading')
      return [{ kind: 'paragraph', runs: block.runs.map((run) => ({ ...run, strong: true as const })) }];
    return [{ kind: 'paragraph', runs: block.runs }];
  });
}

/**
 * Blocks as plain text: blank lines between paragraphs, readable lists, addresses behind their words; pictures named
 * where that is asked.
 */
export function writePlain(blocks: readonly Block[], pictures: 'left out' | 'named' = 'left out'): string {
  return blocks
    .flatMap((block) => {
      if (block.kind === 'figure') {
        const { caption, side, size } = block.figure;
        return pictures === 'named' ? [`[picture, ${size}, ${side}${caption === '' ? '' : `: ${caption}`}]`] : [];
      }
      if (block.kind === 'list')
        return block.items.map((item, i) => listMark(block.ordered, i) + plainRuns(item)).join('\n');
      return plainRuns(block.runs);
    })
    .join('\n\n');
}

const listMark = (ordered: boolean, index: number) => (ordered ? `${index + 1}. ` : '• ');

function plainRuns(runs: readonly Run[]): string {
  return runs
    .map((run) => (run.href === undefined || run.href === run.text ? run.text : `${run.text} (${run.href})`))
    .join('');
}

/** Canonical HTML of the record's set. */
export function cleanHtml(html: string): string {
  return writeHtml(markupOf(html));
}

/**
 * As `readMarkup`, with the last few texts kept: several channels read the same words, one after the other. Not to be
 * changed.
 */
export const markupOf: (html: string) => readonly Block[] = lately(readMarkup);

/** Plain text (blank lines between paragraphs) as HTML of the record's set. */
export function plainToHtml(text: string): string {
  const blocks = text.split(/\n\s*\n/).map<Block>((part) => ({ kind: 'paragraph', runs: [{ text: part.trim() }] }));
  return writeHtml(blocks.filter((block) => 'runs' in block && wordsOf(block.runs) !== ''));
}
