import { Node } from '@tiptap/core';
import type { Figure } from '@/core/words/markup';

/** What stands of a picture in the editor: the marks that the record keeps. */
export type FigureAttributes = Omit<Figure, 'href' | 'alt'> & { href: string };

/** A picture within the text: shown small, with its caption; its marks are those that `writeHtml` writes. */
export const FigureNode = Node.create({
  name: 'figure',
  group: 'block',
  atom: true,
  draggable: true,
  selectable: true,
  addAttributes() {
    return {
      picture: { default: '' },
      side: { default: 'full' },
      size: { default: 'whole' },
      caption: { default: '' },
      href: { default: '' },
    };
  },
  parseHTML() {
    return [
      {
        tag: 'figure[data-picture]',
        getAttrs: (element) => ({
          picture: element.getAttribute('data-picture') ?? '',
          side: element.getAttribute('data-side') ?? 'full',
          size: element.getAttribute('data-size') ?? 'whole',
          href: element.getAttribute('data-href') ?? '',
          caption: element.querySelector('figcaption')?.textContent ?? '',
        }),
      },
    ];
  },
  renderHTML({ node }) {
    const { picture, side, size, caption, href } = node.attrs as FigureAttributes;
    return [
      'figure',
      { 'data-picture': picture, 'data-side': side, 'data-size': size, ...(href === '' ? {} : { 'data-href': href }) },
      ['img', { src: `/api/pictures/${picture}?width=400`, alt: '' }],
      ['figcaption', {}, caption],
    ];
  },
});
