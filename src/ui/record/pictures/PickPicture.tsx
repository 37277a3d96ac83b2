import { TextInput } from '@mantine/core';
import { useEffect, useState } from 'react';
import { z } from 'zod';
import { newPicture } from '@/core/record/new-record';
import type { PictureUse } from '@/core/record/record';
import classes from '../RecordForm.module.css';

const keptSchema = z.object({
  pictures: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      width: z.number(),
      height: z.number(),
      credit: z.string(),
      alt: z.string(),
      until: z.string().nullable(),
    }),
  ),
});
type Kept = z.infer<typeof keptSchema>['pictures'][number];

/** How long the typing pauses before the shelf is asked, in ms. */
const pauseMs = 250;

/** Pictures that the house keeps, to be used again: with the description and the credit that are kept with them. */
export function PickPicture({ used, onPick }: { used: ReadonlySet<string>; onPick: (picture: PictureUse) => void }) {
  const [find, setFind] = useState('');
  const [found, setFound] = useState<readonly Kept[] | null>(null);
  const [failed, setFailed] = useState(false);
  useEffect(() => {
    const stop = new AbortController();
    const ask = async () => {
      const answer = await fetch(`/api/pictures?find=${encodeURIComponent(find)}`, { signal: stop.signal });
      const read = keptSchema.safeParse(await answer.json());
      if (!read.success) throw new Error('another shape');
      setFound(read.data.pictures);
      setFailed(false);
    };
    const timer = setTimeout(() => void ask().catch(() => !stop.signal.aborted && setFailed(true)), pauseMs);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [find]);
  const free = (found ?? []).filter(({ id }) => !used.has(id));
  return (
    <div role="group" aria-label="Kept pictures">
      <TextInput
        label="Find by name, credit or description"
        value={find}
        onChange={(e) => setFind(e.currentTarget.value)}
      />
      {failed ? (
        <p className="problem" role="alert">
          The house did not answer. Type again.
        </p>
      ) : null}
      {found !== null && free.length === 0 ? (
        <p className={classes.muted}>
          {find.trim() === '' ? 'No other picture is kept yet.' : `Nothing fits “${find}”.`}
        </p>
      ) : null}
      <ul className={classes.shelf}>
        {free.map((kept) => (
          <li key={kept.id}>
            <button type="button" onClick={() => onPick(newPicture(kept, { alt: kept.alt, credit: kept.credit }))}>
              {/* eslint-disable-next-line @next/next/no-img-element -- drawn by our own route at the size shown */}
              <img src={`/api/pictures/${kept.id}?width=200`} alt="" loading="lazy" />
              {kept.name}
              {kept.until === null ? '' : `, until ${kept.until}`}
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
