import { Select, TextInput } from '@mantine/core';
import { useEditorState, type Editor } from '@tiptap/react';
import { figureSides, figureSizes } from '@/core/words/markup';
import type { PictureUse } from '@/core/record/record';
import type { FigureAttributes } from './figure-node';
import classes from '../RecordForm.module.css';

/**
 * Puts one of the record's pictures into the text, and says of the chosen one where it stands, how large, and what it
 * leads to.
 */
export function FigureTools({ editor, pictures }: { editor: Editor; pictures: readonly PictureUse[] }) {
  const chosen = useEditorState({
    editor,
    selector: ({ editor }) => (editor.isActive('figure') ? (editor.getAttributes('figure') as FigureAttributes) : null),
  });
  const set = (part: Partial<FigureAttributes>) => editor.chain().updateAttributes('figure', part).run();
  if (chosen === null && pictures.length === 0) return null;
  const named = (picture: PictureUse, i: number) => ({
    value: picture.pictureId,
    label: picture.alt || `picture ${i + 1}`,
  });
  if (chosen === null)
    return (
      <Select
        w={190}
        size="xs"
        aria-label="Put a picture into the text"
        placeholder="put a picture in"
        data={pictures.map(named)}
        value={null}
        onChange={(picture) => {
          if (picture !== null)
            editor
              .chain()
              .focus()
              .insertContent({ type: 'figure', attrs: { picture, side: 'full', size: 'whole', caption: '', href: '' } })
              .run();
        }}
      />
    );
  return (
    <div className={classes.inline} role="group" aria-label="The chosen picture">
      <TextInput
        style={{ flex: 1, minWidth: 150 }}
        label="Caption"
        value={chosen.caption}
        onChange={(e) => set({ caption: e.currentTarget.value.slice(0, 400) })}
      />
      <Select
        w={86}
        label="Side"
        data={[...figureSides]}
        value={chosen.side}
        allowDeselect={false}
        onChange={(side) => set({ side: figureSides.find((candidate) => candidate === side) ?? 'full' })}
      />
      <Select
        w={86}
        label="Size"
        data={[...figureSizes]}
        value={chosen.size}
        allowDeselect={false}
        onChange={(size) => set({ size: figureSizes.find((candidate) => candidate === size) ?? 'whole' })}
      />
      <TextInput
        w={150}
        label="Leads to"
        placeholder="nothing"
        value={chosen.href}
        onChange={(e) => set({ href: e.currentTarget.value.trim() })}
      />
      <button type="button" className="plainButton" onClick={() => editor.chain().focus().deleteSelection().run()}>
        Remove it from the text
      </button>
    </div>
  );
}
