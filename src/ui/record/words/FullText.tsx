import { useOpen } from '@/ui/may/Fields';
import { useEffect, useMemo, useRef, useState, type ComponentType } from 'react';
import { readMarkup, writePlain } from '@/core/words/markup';
import type { EditorProps, FullTextProps } from './FullTextEditor';
import classes from '../RecordForm.module.css';

/** So near to what is seen, in pixels, that it will be soon. */
const nearby = '600px';

/**
 * The full text: to be read at once; what writes it is fetched when one comes near. Nobody who comes in before that loses
 * a key: what stands in its place hears them until the editor has the focus.
 */
export function FullText(props: FullTextProps) {
  const open = useOpen();
  const { place, Editor, over, before, failed, fetchEditor } = useEditorSoon();
  const text = useMemo(() => (over && open ? '' : writePlain(readMarkup(props.value))), [over, open, props.value]);
  return (
    <>
      {over && open ? null : (
        <>
          <p className={classes.wordsLabel} aria-hidden="true">
            Full text
          </p>
          <div
            ref={place}
            className={classes.words}
            role="textbox"
            aria-label="Full text"
            aria-multiline
            aria-busy={open}
            aria-readonly={!open}
            tabIndex={0}
          >
            {text.split('\n').map((line, i) => (
              <p key={i}>{line}</p>
            ))}
          </div>
        </>
      )}
      {Editor && open ? (
        <div className={over ? undefined : classes.coming} aria-hidden={!over || undefined}>
          <Editor {...props} before={before} />
        </div>
      ) : null}
      {failed ? (
        <p className="problem" role="alert">
          The editor did not come from the house.{' '}
          <button type="button" className="plainButton" onClick={fetchEditor}>
            Fetch the editor again
          </button>
        </p>
      ) : null}
    </>
  );
}

/** The editor, as soon as one comes near, and what is typed until it has taken over. */
function useEditorSoon() {
  const place = useRef<HTMLDivElement>(null);
  /** What was typed before the editor had the focus. */
  const typed = useRef('');
  const [editor, setEditor] = useState<{ Editor: ComponentType<EditorProps> } | null>(null);
  const [over, setOver] = useState(false);
  const [failed, setFailed] = useState(false);
  const before = useMemo<EditorProps['before']>(
    () => ({
      waits: () => typed.current !== '' || document.activeElement === place.current,
      take: () => {
        const text = typed.current;
        typed.current = '';
        return text;
      },
      done: () => setOver(true),
    }),
    [],
  );
  const fetchEditor = () => {
    setFailed(false);
    void import('./FullTextEditor').then(
      ({ FullTextEditor }) => setEditor({ Editor: FullTextEditor }),
      () => setFailed(true),
    );
  };
  useEffect(() => {
    const element = place.current;
    if (!element) return;
    const watch = new IntersectionObserver(
      ([entry]) => {
        if (entry?.isIntersecting !== true) return;
        watch.disconnect();
        fetchEditor();
      },
      { rootMargin: nearby },
    );
    watch.observe(element);
    // At the element itself: what the screen's shortcuts listen on lies between it and the root that React listens on.
    const keep = (event: KeyboardEvent) => {
      if (event.key.length !== 1 || event.ctrlKey || event.metaKey || event.altKey) return;
      event.preventDefault();
      event.stopPropagation();
      typed.current += event.key;
    };
    element.addEventListener('keydown', keep);
    return () => {
      watch.disconnect();
      element.removeEventListener('keydown', keep);
    };
  }, []);
  return { place, Editor: editor?.Editor ?? null, over, before, failed, fetchEditor };
}
