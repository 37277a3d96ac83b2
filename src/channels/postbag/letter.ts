import { inline } from 'css-inline';
import { z } from 'zod';
import type { Wire } from '@/core/listing/channel-rules';
import { escapeHtml } from '@/core/words/escape-html';

const letterSchema = z.looseObject({
  subject: z.string(),
  preview: z.string().nullish(),
  words: z.string(),
  link: z.string().nullish(),
  picture: z.object({ file: z.string(), alt: z.string() }).nullish(),
  segment: z.string(),
});

/** A letter's two bodies: the same words as HTML and as plain text (RFC 2046, section 5.1.4). */
export interface Letter {
  subject: string;
  segment: string;
  preview: string;
  html: string;
  text: string;
}

const style = `
  body { margin: 0; background: #f2f4f1; }
  .sheet { max-width: 600px; margin: 0 auto; padding: 24px; background: #ffffff; color: #1b2b27; font-family: Georgia, serif; font-size: 17px; line-height: 1.5; }
  .preview { display: none; }
  .sheet img { width: 100%; height: auto; }
  .go { color: #1b2b27; font-weight: bold; }
  .foot { color: #55645f; font-size: 13px; }
`;

/** Words, link and picture as a letter. `leave`: where one leaves the list. */
export function letterOf(wire: Wire, leave: string): Letter {
  const { subject, preview, words, link, picture, segment } = letterSchema.parse(wire);
  const paragraphs = words
    .split(/\n{2,}/)
    .map((text) => `<p>${escapeHtml(text).replaceAll('\n', '<br>')}</p>`)
    .join('\n');
  const html = `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${escapeHtml(subject)}</title><style>${style}</style></head><body>
<div class="preview">${escapeHtml(preview ?? '')}</div>
<div class="sheet">
${picture ? `<img src="cid:${escapeHtml(picture.file)}" alt="${escapeHtml(picture.alt)}">` : ''}
${paragraphs}
${link ? `<p><a class="go" href="${escapeHtml(link)}">${escapeHtml(link)}</a></p>` : ''}
<p class="foot">You have this letter because you asked for it. <a href="${escapeHtml(leave)}">Leave the list</a></p>
</div></body></html>`;
  // A line that ends a text in mail (RFC 3676, section 4.3) ends ours and no other.
  const text = `${words.replace(/^-- $/gm, '--')}\n${link ? `\n→ ${link}\n` : ''}\n-- \nYou have this letter because you asked for it. Leave the list: ${leave}\n`;
  // Programs that read mail drop style sheets and names of classes: each rule stands where it is used.
  const plain = inline(html).replace(/ class="(?:preview|sheet|go|foot)"/g, '');
  return { subject, segment, preview: preview ?? '', html: plain, text };
}
