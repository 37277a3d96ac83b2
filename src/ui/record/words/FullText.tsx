import { useEffect, useMemo, useRef, useState, type ComponentType } from 'react';
import { readMarkup, writePlain } from '@/core/words/markup';
import type { EditorProps, FullTextProps } from './FullTextEditor';
import classes from '../RecordForm.module.css';

/** So near to what is seen, in pixels, that it will be soon. */
const nearby = '600px';

/** The full text: to be read at once; what writes it is fetched when one comes near. Nobody who comes in before that loses a key. */
export function FullText(props: FullTextProps) {
  const place = useRef<HTMLDivElement>(null);
  /** What was typed before the editor was there; `null`: nobody came in. */
  const typed = useRef<string | null>(null);
  const [editor, setEditor] = useState<{ Editor: ComponentType<EditorProps>; first: string | null } | null>(null);
  const [failed, setFailed] = useState(false);
  const text = useMemo(() => (editor ? '' : writePlain(readMarkup(props.value))), [editor, props.value]);
  const fetchEditor = () => {
    setFailed(false);
    void import('./FullTextEditor').then(
      ({ FullTextEditor }) => setEditor({ Editor: FullTextEditor, first: typed.current }),
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
      typed.current = (typed.current ?? '') + event.key;
    };
    element.addEventListener('keydown', keep);
    return () => {
      watch.disconnect();
      element.removeEventListener('keydown', keep);
    };
  }, []);
  if (editor) return <editor.Editor {...props} first={editor.first} />;
  return (
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
        aria-busy
        tabIndex={0}
        onFocus={() => (typed.current ??= '')}
      >
        {text.split('\n').map((line, i) => (
          <p key={i}>{line}</p>
        ))}
      </div>
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
