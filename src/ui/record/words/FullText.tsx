import dynamic from 'next/dynamic';
import { useEffect, useMemo, useRef, useState } from 'react';
import { readMarkup, writePlain } from '@/core/words/markup';
import type { FullTextProps } from './FullTextEditor';
import classes from '../RecordForm.module.css';

/** Fetched when the text comes near the part of the page that is seen. */
const Editor = dynamic(() => import('./FullTextEditor').then(({ FullTextEditor }) => FullTextEditor), { ssr: false });

/** So near to what is seen, in pixels, that it will be soon. */
const nearby = '600px';

/** The full text: to be read at once, and to be written as soon as one comes near it. */
export function FullText(props: FullTextProps) {
  const place = useRef<HTMLDivElement>(null);
  const [near, setNear] = useState(false);
  const [entered, setEntered] = useState(false);
  const text = useMemo(() => (near ? '' : writePlain(readMarkup(props.value))), [near, props.value]);
  useEffect(() => {
    const element = place.current;
    if (near || !element) return;
    const watch = new IntersectionObserver(([entry]) => entry?.isIntersecting === true && setNear(true), {
      rootMargin: nearby,
    });
    watch.observe(element);
    return () => watch.disconnect();
  }, [near]);
  if (near) return <Editor {...props} focusFirst={entered} />;
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
        onFocus={() => {
          setEntered(true);
          setNear(true);
        }}
      >
        {text.split('\n').map((line, i) => (
          <p key={i}>{line}</p>
        ))}
      </div>
    </>
  );
}
