import { parseDocument } from 'htmlparser2';

type Node = ReturnType<typeof parseDocument>['children'][number];

/** A stretch of text with its marks. */
export interface Run {
  text: string;
  strong?: true;
  em?: true;
  href?: string;
}

/** A block of rich text: the record's whole set. */
export type Block = { kind: 'paragraph' | 'heading' | 'quote'; runs: Run[] } | { kind: 'list'; ordered: boolean; items: Run[][] };

const blockTags = new Set(['p', 'div', 'section', 'article', 'h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'blockquote', 'ul', 'ol', 'table', 'tr', 'pre']);
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
  return reader.blocks.filter((block) => (block.kind === 'list' ? block.items.length > 0 : wordsOf(block.runs).trim() !== ''));
}

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

  children(nodes: readonly Node[], marks: Marks, depth: number): void {
    for (const node of nodes) this.node(node, marks, depth);
  }

  private node(node: Node, marks: Marks, depth: number): void {
    if (node.type === 'text') {
      this.open.push({ text: node.data, ...marks });
      return;
    }
    if (!('children' in node) || !('name' in node) || silentTags.has(node.name)) return;
    const name = node.name;
    if (depth > maxDepth) return;
    if (name === 'br') this.open.push(lineBreak);
    else if (name === 'ul' || name === 'ol') this.list(node.children as Node[], name === 'ol', depth);
    else if (blockTags.has(name)) this.block(name, node.children as Node[], marks, depth);
    else this.children(node.children as Node[], { ...marks, ...marksOf(name, node.attribs) }, depth + 1);
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

  private list(nodes: Node[], ordered: boolean, depth: number): void {
    this.close();
    const items: Run[][] = [];
    for (const node of nodes) {
      if (!('children' in node) || !('name' in node) || node.name !== 'li') continue;
      const inner = new Reader();
      inner.children(node.children as Node[], {}, depth + 1);
      inner.close();
      const runs = inner.blocks.flatMap((block) => (block.kind === 'list' ? block.items.flat() : block.runs));
      if (wordsOf(runs).trim() !== '') items.push(runs);
    }
    if (items.length > 0) this.blocks.push({ kind: 'list', ordered, items });
  }
}

function marksOf(name: string, attribs: Record<string, string>): Marks {
  if (name === 'strong' || name === 'b') return { strong: true };
  if (name === 'em' || name === 'i') return { em: true };
  if (name === 'a' && /^(https?:|mailto:)/i.test(attribs.href ?? '')) return { href: attribs.href ?? '' };
  return {};
}

/**
 * Folds white space (across runs too), joins equal neighbours and trims the ends and every line, so that equal
 * meaning gives equal runs. A line break carries no marks.
 */
function tidy(runs: readonly Run[]): Run[] {
  const out: Run[] = [];
  let space: Run | null = null;
  let breaks = 0;
  const append = (run: Run) => {
    const last = out[out.length - 1];
    if (last && last.strong === run.strong && last.em === run.em && last.href === run.href) last.text += run.text;
    else out.push({ ...run });
  };
  for (const run of runs) {
    for (const piece of run === lineBreak ? ['\n'] : run.text.split(/([\s\u00a0]+)/)) {
      if (piece === '') continue;
      if (run === lineBreak) breaks += 1;
      else if (/^[\s\u00a0]/.test(piece)) space ??= { ...run, text: ' ' };
      else {
        if (out.length > 0 && breaks > 0) append({ text: '\n'.repeat(breaks) });
        else if (out.length > 0 && space) append(space);
        append({ ...run, text: piece });
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

const escapes: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
const escapeHtml = (text: string) => text.replace(/[&<>"]/g, (c) => escapes[c] ?? c);

function runHtml(run: Run): string {
  let html = escapeHtml(run.text).replaceAll('\n', '<br>');
  if (run.em) html = `<em>${html}</em>`;
  if (run.strong) html = `<strong>${html}</strong>`;
  return run.href === undefined ? html : `<a href="${escapeHtml(run.href)}">${html}</a>`;
}

const runsHtml = (runs: readonly Run[]) => runs.map(runHtml).join('');

/** Blocks as HTML of the record's set. `writeHtml(readMarkup(x))` is the canonical form of `x`. */
export function writeHtml(blocks: readonly Block[]): string {
  return blocks.map((block) => {
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
    }
  }).join('');
}

/** Blocks as paragraphs only, for channels without headings, quotes and lists; items keep their marks. */
export function flattenBlocks(blocks: readonly Block[]): Block[] {
  return blocks.flatMap<Block>((block) => {
    if (block.kind === 'list') {
      return block.items.map((item, i) => ({ kind: 'paragraph', runs: [{ text: listMark(block.ordered, i) }, ...item] }));
    }
    if (block.kind === 'heading') return [{ kind: 'paragraph', runs: block.runs.map((run) => ({ ...run, strong: true as const })) }];
    return [{ kind: 'paragraph', runs: block.runs }];
  });
}

/** Blocks as plain text: blank lines between paragraphs, readable lists, addresses behind their words. */
export function writePlain(blocks: readonly Block[]): string {
  return blocks.map((block) => {
    if (block.kind === 'list') return block.items.map((item, i) => listMark(block.ordered, i) + plainRuns(item)).join('\n');
    return plainRuns(block.runs);
  }).join('\n\n');
}

const listMark = (ordered: boolean, index: number) => (ordered ? `${index + 1}. ` : '• ');

function plainRuns(runs: readonly Run[]): string {
  return runs.map((run) => (run.href === undefined || run.href === run.text ? run.text : `${run.text} (${run.href})`)).join('');
}

/** Canonical HTML of the record's set. */
export function cleanHtml(html: string): string {
  return writeHtml(readMarkup(html));
}

/** Plain text (blank lines between paragraphs) as HTML of the record's set. */
export function plainToHtml(text: string): string {
  const blocks = text.split(/\n\s*\n/).map<Block>((part) => ({ kind: 'paragraph', runs: [{ text: part.trim() }] }));
  return writeHtml(blocks.filter((block) => block.kind !== 'list' && wordsOf(block.runs) !== ''));
}
