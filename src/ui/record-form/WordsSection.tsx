import { Textarea } from '@mantine/core';
import StarterKit from '@tiptap/starter-kit';
import { EditorContent, useEditor, useEditorState, type Editor } from '@tiptap/react';
import { useEffect, useRef } from 'react';
import { countGraphemes } from '@/core/graphemes';
import { cleanHtml } from '@/core/markup';
import { Section, type FieldError } from './form-parts';
import classes from './RecordForm.module.css';

const teaserLimit = 160;

interface WordsSectionProps {
  words: { teaser: string; full: string };
  onChange: (words: { teaser: string; full: string }) => void;
  error: FieldError;
}

/** The words: a teaser, and the full text restricted to what the record keeps. */
export function WordsSection({ words, onChange, error }: WordsSectionProps) {
  const length = countGraphemes(words.teaser);
  return (
    <Section id="words" title="Words">
      <Textarea
        label="Teaser" autosize minRows={2} maxRows={6} value={words.teaser} error={error('words.teaser')}
        description={`${length} of ${teaserLimit}${length > teaserLimit ? ': longer than a teaser should be; some channels will cut it' : ''}`}
        onChange={(e) => onChange({ ...words, teaser: e.currentTarget.value })}
      />
      <FullText value={words.full} onChange={(full) => onChange({ ...words, full })} />
      {error('words.full') ? <p className="problem">{error('words.full')}</p> : null}
    </Section>
  );
}

function FullText({ value, onChange }: { value: string; onChange: (html: string) => void }) {
  const latest = useRef(onChange);
  useEffect(() => {
    latest.current = onChange;
  });
  const own = useRef(value);
  const editor = useEditor({
    extensions: [StarterKit.configure({ heading: { levels: [3] }, code: false, codeBlock: false, horizontalRule: false, strike: false, underline: false, link: { openOnClick: false } })],
    content: value,
    immediatelyRender: false,
    editorProps: { attributes: { 'aria-label': 'Full text', role: 'textbox', 'aria-multiline': 'true' } },
    onUpdate: ({ editor: one }) => {
      own.current = cleanHtml(one.getHTML());
      latest.current(own.current);
    },
  });
  useEffect(() => {
    // The draft changed from outside (merge, revert): show that, without echoing it back.
    if (editor && value !== own.current) {
      own.current = value;
      editor.commands.setContent(value, { emitUpdate: false });
    }
  }, [editor, value]);
  return (
    <>
    <p className={classes.wordsLabel} aria-hidden="true">Full text</p>
    <div className={classes.words}>
      {editor ? <Tools editor={editor} /> : null}
      <EditorContent editor={editor} />
    </div>
    </>
  );
}

function Tools({ editor }: { editor: Editor }) {
  const on = useEditorState({
    editor,
    selector: ({ editor: one }) => ({ bold: one.isActive('bold'), italic: one.isActive('italic'), heading: one.isActive('heading'), list: one.isActive('bulletList'), link: one.isActive('link') }),
  });
  const link = () => {
    const href = window.prompt('Address of the link (empty takes it away)', String(editor.getAttributes('link').href ?? 'https://'));
    if (href === null) return;
    if (href === '' || href === 'https://') editor.chain().focus().unsetLink().run();
    else editor.chain().focus().setLink({ href }).run();
  };
  return (
    <div className={classes.tools} role="toolbar" aria-label="Marks of the full text">
      <button type="button" aria-pressed={on.bold} onClick={() => editor.chain().focus().toggleBold().run()}>bold</button>
      <button type="button" aria-pressed={on.italic} onClick={() => editor.chain().focus().toggleItalic().run()}>italic</button>
      <button type="button" aria-pressed={on.heading} onClick={() => editor.chain().focus().toggleHeading({ level: 3 }).run()}>heading</button>
      <button type="button" aria-pressed={on.list} onClick={() => editor.chain().focus().toggleBulletList().run()}>list</button>
      <button type="button" aria-pressed={on.link} onClick={link}>link</button>
    </div>
  );
}
