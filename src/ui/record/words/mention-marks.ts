import { Extension } from '@tiptap/core';
import type { Node } from '@tiptap/pm/model';
import { Plugin, PluginKey } from '@tiptap/pm/state';
import { Decoration, DecorationSet } from '@tiptap/pm/view';
import type { Mention } from '@/core/words/mention';

/** The text of a document with the place in the document of every character. */
export interface PlacedText {
  text: string;
  places: number[];
}

/** All text of a document, blocks parted by line breaks. */
export function placedText(doc: Node): PlacedText {
  let text = '';
  const places: number[] = [];
  doc.descendants((node, at) => {
    if (node.isTextblock && text !== '') {
      text += '\n';
      places.push(at);
    }
    if (!node.isText || node.text === undefined) return;
    for (let i = 0; i < node.text.length; i += 1) places.push(at + i);
    text += node.text;
  });
  return { text, places };
}

/** Where a mention stands in the document. */
export function spanOf(
  { places }: PlacedText,
  { from, to }: Pick<Mention, 'from' | 'to'>,
): { from: number; to: number } | null {
  const [first, last] = [places[from], places[to - 1]];
  return first === undefined || last === undefined ? null : { from: first, to: last + 1 };
}

export const mentionKey = new PluginKey<DecorationSet>('mentions');

/** Marks typed facts in the text by their verdict; the marks are told by a transaction and move with the text. */
export const MentionMarks = Extension.create({
  name: 'mentionMarks',
  addProseMirrorPlugins() {
    return [
      new Plugin<DecorationSet>({
        key: mentionKey,
        state: {
          init: () => DecorationSet.empty,
          apply(transaction, before) {
            const told = transaction.getMeta(mentionKey) as readonly Mention[] | undefined;
            if (told === undefined) return before.map(transaction.mapping, transaction.doc);
            const placed = placedText(transaction.doc);
            return DecorationSet.create(
              transaction.doc,
              told.flatMap((mention) => {
                const span = spanOf(placed, mention);
                return span
                  ? [
                      Decoration.inline(span.from, span.to, {
                        'data-verdict': mention.verdict,
                        title: `${mention.verdict}: the record says ${mention.says}`,
                      }),
                    ]
                  : [];
              }),
            );
          },
        },
        props: { decorations: (state) => mentionKey.getState(state) ?? null },
      }),
    ];
  },
});
