import { html, raw } from 'hono/html';
import moment from 'moment-timezone';

type Html = ReturnType<typeof html>;

const faces = raw(`
@font-face { font-family: 'Display'; src: url('/faces/bricolage-grotesque.woff2'); font-weight: 200 800; font-stretch: 75% 100%; }
@font-face { font-family: 'Text'; src: url('/faces/hanken-grotesk.woff2'); font-weight: 100 900; }
@font-face { font-family: 'Mono'; src: url('/faces/sometype-mono.woff2'); font-weight: 400 700; }
* { box-sizing: border-box } body { margin: 0; font: 16px/1.5 Text, sans-serif } img { max-width: 100%; display: block }
a { color: inherit } form { display: inline } button, input, textarea { font: inherit }
`);

/** A whole page with a stand-in's own style. */
export function page(title: string, style: string, body: Html | Promise<Html>) {
  return html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width" />
        <title>${title}</title>
        <style>
          ${faces}${raw(style)}
        </style>
      </head>
      <body>
        ${body}
      </body>
    </html>`;
}

/** Where these places are at home: their pages name any other zone. */
const home = 'Europe/Dublin';

/** An instant in words, in its zone: `Thursday 4 February 2027, 20:00`, with the zone where its clock is not theirs. */
export function say(at: number, zone: string, form?: string): string {
  const there = moment.tz(at, zone);
  if (form !== undefined) return there.format(form);
  const words = there.format('dddd D MMMM YYYY, HH:mm');
  return there.utcOffset() === moment.tz(at, home).utcOffset() ? words : `${words} (${zone})`;
}

/** An instant as RFC 3339 text, for `datetime` attributes. */
export function stamp(at: number): string {
  return new Date(at).toISOString();
}

/** Reads `YYYY-MM-DD HH:mm` in a zone. `null` where it is no such text. */
export function readLocal(text: string, zone: string): number | null {
  const read = moment.tz(text.trim(), 'YYYY-MM-DD HH:mm', true, zone);
  return read.isValid() ? read.valueOf() : null;
}

/** HTML that a stand-in has taken in and cleaned itself: shown as it is. */
export function asHtml(text: string) {
  return raw(text.replace(/<(script|style|iframe)[\s\S]*?<\/\1>/gi, '').replace(/\son\w+="[^"]*"/gi, ''));
}
