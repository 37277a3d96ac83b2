import StarterKit from '@tiptap/starter-kit';
import { EditorContent, useEditor, useEditorState, type Editor } from '@tiptap/react';
import { useEffect, useRef, useState } from 'react';
import { cleanHtml } from '@/core/words/markup';
import type { Mention, MentionContext } from '@/core/words/mention';
import { droppedWords, readPaste, type PasteReport } from '@/core/words/paste';
import { tokenBeingTyped, tokenText, type Token } from '@/core/words/tokens';
import type { PictureUse } from '@/core/record/record';
import { TokenMenu } from './FactText';
import { FigureNode } from './figure-node';
import { FigureTools } from './FigureTools';
import { mentionKey, MentionMarks, placedText, spanOf } from './mention-marks';
import { MentionList } from '@/ui/mention-list';
import { mentionsBeside } from '@/ui/reckoner';
import classes from '../RecordForm.module.css';

export interface FullTextProps {
  value: string;
  onChange: (html: string) => void;
  context: MentionContext;
  /** Pictures that may stand in it. */
  pictures: readonly PictureUse[];
  error: string | undefined;
}

export interface EditorProps extends FullTextProps {
  /** Who came to the text before the editor was there. */
  before: {
    /** Somebody is in it, or has typed. */
    waits: () => boolean;
    /** What was typed since this was last asked. */
    take: () => string;
    /** The editor has it from here. */
    done: () => void;
  };
}

type PasteSaid = PasteReport | { refused: string };

/** What a text can be made of: what the record keeps, and no more. */
const extensions = [
  StarterKit.configure({
    heading: { levels: [3] },
    code: false,
    codeBlock: false,
    horizontalRule: false,
    strike: false,
    underline: false,
    link: { openOnClick: false },
  }),
  MentionMarks,
  FigureNode,
];

function readClipboard({ clipboardData }: ClipboardEvent) {
  const data = (type: string) => clipboardData?.getData(type) ?? '';
  return readPaste({ html: data('text/html'), plain: data('text/plain') });
}

/** The typed fact that the caret stands in, where a token can take its place. */
function mentionHere(editor: Editor, mentions: readonly Mention[]): Mention | undefined {
  const placed = placedText(editor.state.doc);
  const caret = editor.state.selection.from;
  return mentions.find((mention) => {
    const span = spanOf(placed, mention);
    return span !== null && mention.token !== null && span.from <= caret && caret <= span.to;
  });
}

/** How long the focus is waited for, in ms: a window behind others gets none. */
const focusMs = 400;

/**
 * Leads whoever came before the editor could be written into into it, with what was typed till then; nobody else is led
 * anywhere.
 */
function handingOver({ waits, take, done }: EditorProps['before']) {
  const over = ({ editor }: { editor: Editor }) => {
    const text = take();
    if (text !== '') editor.chain().insertContent({ type: 'text', text }).run();
    done();
  };
  return {
    onCreate: (at: { editor: Editor }) => {
      if (!waits()) return done();
      at.editor.chain().focus('end').run();
      setTimeout(() => over(at), focusMs);
    },
    onFocus: over,
  };
}

/**
 * The full text, restricted to what the record keeps: pastes are cleaned, typed facts are marked, tokens are offered.
 */
export function FullTextEditor({ value, onChange, context, pictures, error, before }: EditorProps) {
  const latest = useRef(onChange);
  useEffect(() => {
    latest.current = onChange;
  });
  const own = useRef(value);
  const [pasted, setPasted] = useState<PasteSaid | null>(null);
  const editor = useEditor({
    extensions,
    content: value,
    ...handingOver(before),
    immediatelyRender: false,
    editorProps: {
      attributes: { 'aria-label': 'Full text', role: 'textbox', 'aria-multiline': 'true' },
      // Before the editor reads the paste itself, which takes seconds where it is large.
      handleDOMEvents: {
        paste: (view, event) => {
          const read = readClipboard(event);
          if (read === null) return false;
          event.preventDefault();
          if (!read.ok) {
            setPasted({ refused: read.error });
            return true;
          }
          setPasted(read.value.dropped.length + read.value.broken.length > 0 ? read.value : null);
          view.pasteHTML(read.value.html);
          return true;
        },
      },
      // The cleaned HTML that is pasted in comes here once more: it holds nothing that would be dropped.
      transformPastedHTML: (html) => cleanHtml(html),
    },
    onUpdate: ({ editor }) => {
      own.current = cleanHtml(editor.getHTML());
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
  const mentions = useMentions(editor, value, context);
  const asToken = (mention: Mention) => {
    if (!editor || mention.token === null) return;
    const span = spanOf(placedText(editor.state.doc), mention);
    if (span) editor.chain().focus().insertContentAt(span, tokenText(mention.token)).run();
  };
  return (
    <>
      <p className={classes.wordsLabel} aria-hidden="true">
        Full text
      </p>
      <div
        className={classes.words}
        onKeyDown={(event) => {
          if (!editor || event.key !== 'Enter' || !(event.ctrlKey || event.metaKey)) return;
          const here = mentionHere(editor, mentions);
          if (here) {
            event.preventDefault();
            event.stopPropagation();
            asToken(here);
          }
        }}
      >
        {editor ? <Tools editor={editor} /> : null}
        {editor ? <FigureTools editor={editor} pictures={pictures} /> : null}
        <EditorContent editor={editor} />
        {editor ? <TypedToken editor={editor} /> : null}
      </div>
      {error ? <p className="problem">{error}</p> : null}
      {pasted ? <PasteStrip said={pasted} onClose={() => setPasted(null)} /> : null}
      <MentionList mentions={mentions} onTurn={asToken} />
    </>
  );
}

/**
 * Finds typed facts a moment after the last key, beside the screen, and marks them in the text if it still reads the
 * same.
 */
function useMentions(editor: Editor | null, value: string, context: MentionContext): Mention[] {
  const [mentions, setMentions] = useState<Mention[]>([]);
  useEffect(() => {
    if (!editor) return;
    let newest = true;
    const find = async () => {
      if (editor.isDestroyed) return;
      const { text } = placedText(editor.state.doc);
      const found = text.trim() === '' ? [] : await mentionsBeside(text, context);
      if (!newest || found === null || editor.isDestroyed || placedText(editor.state.doc).text !== text) return;
      setMentions(found);
      editor.view.dispatch(editor.state.tr.setMeta(mentionKey, found).setMeta('addToHistory', false));
    };
    const timer = setTimeout(() => void find(), 250);
    return () => {
      newest = false;
      clearTimeout(timer);
    };
  }, [editor, value, context]);
  return mentions;
}

/** What was left out of a paste and what in it is broken. */
function PasteStrip({ said, onClose }: { said: PasteSaid; onClose: () => void }) {
  return (
    <p className={classes.notice} role="status">
      {'refused' in said ? (
        said.refused
      ) : (
        <>
          {said.dropped.length > 0 ? <>Left out of the paste: {droppedWords(said)}. </> : null}
          {said.broken.map((item) => (
            <span key={item.what + item.detail}>
              {item.what}: {item.detail}.{' '}
            </span>
          ))}
        </>
      )}{' '}
      <button type="button" className="plainButton" onClick={onClose}>
        Read
      </button>
    </p>
  );
}

function TypedToken({ editor }: { editor: Editor }) {
  const before = useEditorState({
    editor,
    selector: ({ editor }) => {
      const { $from, empty } = editor.state.selection;
      return empty && editor.isFocused
        ? $from.parent.textBetween(Math.max(0, $from.parentOffset - 30), $from.parentOffset, undefined, '\ufffc')
        : '';
    },
  });
  const typing = tokenBeingTyped(before);
  if (!typing || typing.matches.length === 0) return null;
  const pick = (token: Token) => {
    const { from } = editor.state.selection;
    editor
      .chain()
      .focus()
      .insertContentAt({ from: from - typing.typed.length, to: from }, tokenText(token))
      .run();
  };
  return <TokenMenu matches={typing.matches} onPick={pick} />;
}

function Tools({ editor }: { editor: Editor }) {
  const on = useEditorState({
    editor,
    selector: ({ editor }) => ({
      bold: editor.isActive('bold'),
      italic: editor.isActive('italic'),
      heading: editor.isActive('heading'),
      list: editor.isActive('bulletList'),
      link: editor.isActive('link'),
    }),
  });
  const link = () => {
    const href = window.prompt(
      'Address of the link (empty takes it away)',
      String(editor.getAttributes('link').href ?? 'https://'),
    );
    if (href === null) return;
    if (href === '' || href === 'https://') editor.chain().focus().unsetLink().run();
    else editor.chain().focus().setLink({ href }).run();
  };
  return (
    <div className={classes.tools} role="toolbar" aria-label="Marks of the full text">
      <button type="button" aria-pressed={on.bold} onClick={() => editor.chain().focus().toggleBold().run()}>
        bold
      </button>
      <button type="button" aria-pressed={on.italic} onClick={() => editor.chain().focus().toggleItalic().run()}>
        italic
      </button>
      <button
        type="button"
        aria-pressed={on.heading}
        onClick={() => editor.chain().focus().toggleHeading({ level: 3 }).run()}
      >
        heading
      </button>
      <button type="button" aria-pressed={on.list} onClick={() => editor.chain().focus().toggleBulletList().run()}>
        list
      </button>
      <button type="button" aria-pressed={on.link} onClick={link}>
        link
      </button>
    </div>
  );
}
