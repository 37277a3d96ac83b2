import { parseDocument, Parser } from 'htmlparser2';
import { readMarkup, writeHtml } from './markup';
import { isBullet, isUnseen } from './markup-style';
import { recordLimits } from '../record/choices';
import { fail, ok, type Result } from '../base/result';

type Node = ReturnType<typeof parseDocument>['children'][number];

/** What was left out of a paste, and what in it is broken. */
export interface PasteReport {
  /** How often each sort of thing was left out. */
  dropped: { what: string; count: number }[];
  broken: { what: string; detail: string }[];
}

/** Cleaned words with the report. */
export interface Pasted extends PasteReport {
  html: string;
}

/** Largest paste that is read, in characters. */
const mostPasteHtml = 2_000_000;

/** What is left out, by tag. Tags that merely wrap are not worth a word. */
const names: Record<string, string> = {
  table: 'table',
  img: 'picture',
  picture: 'picture',
  video: 'film',
  audio: 'sound',
  iframe: 'embedded page',
  object: 'embedded thing',
  embed: 'embedded thing',
  script: 'script',
  style: 'style sheet',
  font: 'typeface',
  form: 'form',
  input: 'form field',
  button: 'button',
  svg: 'drawing',
  canvas: 'drawing',
  u: 'underline',
  s: 'strike-through',
  strike: 'strike-through',
  hr: 'rule',
};

/**
 * Cleans HTML pasted from a web page or word processor to what the record keeps, and lists what was left out and what
 * is broken. Refused where it is larger than two million characters, or has more text than a record holds.
 */
export function cleanPaste(html: string): Result<Pasted, string> {
  if (html.length > mostPasteHtml)
    return fail(
      `This paste has ${(html.length / 1_000_000).toFixed(1)} million characters; at most 2 million are read. Paste it in parts, or as plain text.`,
    );
  const body = bodyOf(html);
  if (tooDeep(body))
    return fail(`This paste is nested deeper than ${deepest} levels, as no page is. Paste it as plain text.`);
  const report = new Report();
  report.walk(parseDocument(body).children);
  const cleaned = writeHtml(readMarkup(body));
  const refused = tooLong(cleaned);
  if (refused !== null) return fail(refused);
  return ok({ html: cleaned, ...report.result() });
}

/** Why a pasted text is refused for its length; `null`: it is not. */
function tooLong(text: string): string | null {
  return text.length > recordLimits.full
    ? `This paste has ${text.length.toLocaleString('en')} characters of text; a record holds ${recordLimits.full.toLocaleString('en')}. Paste a part of it.`
    : null;
}

/**
 * A paste as the editor should take it: cleaned, refused, or, where it is only a text of a fair length, left to the
 * editor (`null`).
 */
export function readPaste({ html, plain }: { html: string; plain: string }): Result<Pasted, string> | null {
  if (html !== '') return cleanPaste(html);
  const refused = tooLong(plain);
  return refused === null ? null : fail(refused);
}

const deepest = 500;

/** Deep nests cost a parser the square of their depth: they are found before anything is built. */
function tooDeep(html: string): boolean {
  let depth = 0;
  let found = false;
  const parser = new Parser({
    onopentag: () => {
      depth += 1;
      if (depth > deepest && !found) {
        found = true;
        parser.pause();
      }
    },
    onclosetag: () => void (depth -= 1),
  });
  for (let at = 0; at < html.length && !found; at += 16_384) parser.write(html.slice(at, at + 16_384));
  return found;
}

/** Word processors put what was copied between two remarks, with their own baggage around it. */
function bodyOf(html: string): string {
  const start = html.indexOf('<!--StartFragment-->');
  const end = html.lastIndexOf('<!--EndFragment-->');
  return start >= 0 && end > start ? html.slice(start + 20, end) : html;
}

class Report {
  private counts = new Map<string, number>();
  private broken = new Map<string, { what: string; detail: string }>();

  /** Goes through the tree without recursion: a deep nest is no danger. */
  walk(roots: readonly Node[]): void {
    const stack: Node[] = [...roots].reverse();
    for (let node = stack.pop(); node; node = stack.pop()) {
      if (!('attribs' in node)) continue;
      this.look(node.name, node.attribs);
      for (let i = node.children.length - 1; i >= 0; i -= 1) stack.push(node.children[i] as Node);
    }
  }

  private look(name: string, attribs: Record<string, string>): void {
    const what = names[name];
    if (what) this.count(what);
    if (/font|color|background|text-align/i.test(attribs.style ?? '') || attribs.color || attribs.face)
      this.count('typeface and colours');
    if (isUnseen(attribs) && !isBullet(attribs)) this.count('hidden text');
    if (name === 'img') this.image(attribs.src ?? '');
    if (name === 'a') this.link(attribs.href);
    if (Object.keys(attribs).some((key) => key.startsWith('on'))) this.count('script');
  }

  private image(src: string): void {
    if (/^https?:\/\//i.test(src)) return;
    const short = src.slice(0, 80);
    if (src === '') this.note('a picture without an address', 'add it under Pictures');
    else if (/^data:/i.test(src)) this.note('a picture inside the text', 'add it under Pictures as a file');
    else if (/^(file|cid|blob):/i.test(src)) this.note('a picture that lies on another computer', short);
    else this.note('a picture whose address leads nowhere from here', short);
  }

  private link(href: string | undefined): void {
    if (href === undefined || /^(https?:|mailto:)/i.test(href)) return;
    if (href === '' || href.startsWith('#'))
      return this.note('a link within the page it was copied from', href || 'without an address');
    this.note(
      /^javascript:/i.test(href)
        ? 'a link that runs a script'
        : /^[a-z][a-z0-9+.-]*:/i.test(href)
          ? 'a link that leads to no page'
          : 'a link without its site',
      href.slice(0, 80),
    );
  }

  private count(what: string): void {
    this.counts.set(what, (this.counts.get(what) ?? 0) + 1);
  }

  private note(what: string, detail: string): void {
    if (this.broken.size < 20) this.broken.set(`${what} ${detail}`, { what, detail });
  }

  result(): PasteReport {
    return { dropped: [...this.counts].map(([what, count]) => ({ what, count })), broken: [...this.broken.values()] };
  }
}

/** `left out: 2 tables, typeface and colours`. Empty where nothing was. */
export function droppedWords({ dropped }: PasteReport): string {
  const plural = (what: string, count: number) =>
    what.includes(' and ') || what === 'hidden text'
      ? what
      : count === 1
        ? `a ${what}`.replace(/^a (?=[aeiou])/, 'an ')
        : `${count} ${what.replace(/y$/, 'ie')}s`;
  return dropped.map((item) => plural(item.what, item.count)).join(', ');
}
