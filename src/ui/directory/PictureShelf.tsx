import { FileButton, TextInput } from '@mantine/core';
import { useRouter } from 'next/navigation';
import Link from 'next/link';
import { useState } from 'react';
import { DateField } from '@/ui/date-field';
import { noFormAnswer } from '@/ui/no-answer';
import { LeftNote, useTyped } from '@/ui/typed';
import { uploadPicture } from '@/ui/upload-picture';
import type { KeptPicture } from '@/views/pictures';
import classes from './Directory.module.css';
import type { DirectoryDoings } from './doings';

interface PictureShelfProps {
  pictures: readonly KeptPicture[];
  doings: DirectoryDoings;
}

const namedUses = 4;

/** Pictures are kept once: what each is called, whose it is, until when it may be used, and where it is. */
export function PictureShelf({ pictures, doings }: PictureShelfProps) {
  const [find, setFind] = useState('');
  const words = find.trim().toLowerCase();
  const shown = pictures.filter(({ name, credit, alt }) => `${name} ${credit} ${alt}`.toLowerCase().includes(words));
  return (
    <>
      <h2>Pictures</h2>
      <p className={classes.muted}>
        Each picture is kept once, and can be picked again in any record. What is said here is what a record begins
        with.
      </p>
      <AddPicture />
      {pictures.length === 0 ? (
        <p className={classes.muted}>None yet: they are put here while records are made.</p>
      ) : (
        <TextInput
          mt={10}
          label="Find by name, credit or description"
          value={find}
          onChange={(e) => setFind(e.currentTarget.value)}
        />
      )}
      {pictures.length > 0 && shown.length === 0 ? <p className={classes.muted}>Nothing here fits “{find}”.</p> : null}
      {shown.map((picture) => (
        <Kept key={picture.id} picture={picture} doings={doings} />
      ))}
    </>
  );
}

/** A picture that is kept before any record uses it: the logo, a portrait. */
function AddPicture() {
  const router = useRouter();
  const [said, setSaid] = useState('');
  const take = async (file: File | null) => {
    if (file === null) return;
    setSaid('Taking it in …');
    const answer = await uploadPicture(file, (share) => setSaid(`Taking it in: ${Math.round(share * 100)} %`));
    setSaid('message' in answer ? answer.message : 'Kept: the newest stands first.');
    router.refresh();
  };
  return (
    <div className={classes.row}>
      <FileButton accept="image/*" onChange={(file) => void take(file)} inputProps={{ 'aria-label': 'Picture file' }}>
        {(props) => (
          <button type="button" className="quietButton" {...props}>
            Add a picture
          </button>
        )}
      </FileButton>
      <span role="status">{said}</span>
    </div>
  );
}

/** One picture with what is said of it. */
function Kept({ picture, doings }: { picture: KeptPicture; doings: DirectoryDoings }) {
  const { id, uses } = picture;
  const { name, credit, alt, until } = picture;
  const kept = useTyped(`picture-${id}`, { name, credit, alt, until });
  const { typed, setTyped } = kept;
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [saved, setSaved] = useState(false);
  const set = (part: Partial<typeof typed>) => {
    setTyped({ ...typed, ...part });
    setSaved(false);
  };
  const save = async () => {
    const answer = await doings.keepPicture({ id, ...typed }).catch(noFormAnswer);
    if (answer.ok) kept.settle(typed);
    setErrors(answer.ok ? {} : answer.error);
    setSaved(answer.ok);
  };
  return (
    <section className={classes.kept} aria-label={picture.name}>
      {/* eslint-disable-next-line @next/next/no-img-element -- drawn by our own route at the size shown */}
      <img src={`/api/pictures/${id}?width=200`} alt="" loading="lazy" />
      <div>
        <LeftNote form={kept} name="It" />
        <div className={classes.grid}>
          <TextInput
            className={classes.w3}
            label="Name"
            value={typed.name}
            error={errors.name}
            onChange={(e) => set({ name: e.currentTarget.value })}
          />
          <TextInput
            className={classes.w3}
            label="Whose it is"
            value={typed.credit}
            error={errors.credit}
            onChange={(e) => set({ credit: e.currentTarget.value })}
          />
          <TextInput
            className={classes.w4}
            label="Description, for those who cannot see it"
            value={typed.alt}
            error={errors.alt}
            onChange={(e) => set({ alt: e.currentTarget.value })}
          />
          <DateField
            className={classes.w2}
            label="May be used until"
            placeholder="for good"
            value={typed.until}
            error={errors.until}
            onDate={(until) => set({ until })}
            onClear={() => set({ until: null })}
          />
        </div>
        <p className={classes.muted}>
          {picture.width} × {picture.height} px. {picture.logo ? 'The house’s logo. ' : ''}
          {uses.length > 0 ? 'Used by ' : picture.logo ? '' : 'Not used.'}
          {uses.slice(0, namedUses).map(({ id: record, title }, i) => (
            <span key={record}>
              {i === 0 ? '' : ', '}
              <Link href={`/records/${record}#picture`}>{title}</Link>
            </span>
          ))}
          {uses.length > namedUses ? ` and ${uses.length - namedUses} more` : ''}
        </p>
        <div className={classes.row}>
          <button type="button" className="quietButton" onClick={() => void save()}>
            Save
          </button>
          {saved ? (
            <span className={classes.saved} role="status">
              Saved.
            </span>
          ) : null}
        </div>
      </div>
    </section>
  );
}
