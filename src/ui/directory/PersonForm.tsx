import { Subscribe } from '@/ui/subscribe';
import { fail } from '@/core/base/result';
import { noAnswer, noFormAnswer } from '@/ui/no-answer';
import { LeftNote, useTyped } from '@/ui/typed';
import { Checkbox, Select, Textarea, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { Artist, Organiser, Profile } from '@/core/record/directory';
import { organiserParts } from '@/core/record/choices';
import classes from './Directory.module.css';
import type { DirectoryDoings } from './doings';
import { EntryFoot } from './EntryFoot';

interface PersonFormProps {
  sort: 'artist' | 'organiser';
  person: Artist | Organiser;
  others: readonly (Artist | Organiser)[];
  channels: { id: string; name: string; profiles: boolean }[];
  doings: DirectoryDoings;
}

/** An artist with profiles on channels, or an organiser with the standing paragraph and links. */
export function PersonForm(props: PersonFormProps) {
  const form = usePersonFormState(props);
  const { kept, typed, errors, set, channels, saved, person, doings, save, sort, others } = form;
  return (
    <>
      <h2>{typed.name || 'New entry'}</h2>
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
          label="Website"
          value={typed.site}
          placeholder="https://"
          error={errors.site}
          onChange={(e) => set({ site: e.currentTarget.value })}
        />
      </div>
      {'profiles' in typed ? (
        <Profiles
          artist={typed}
          channels={channels}
          errors={errors}
          onChange={(profiles) => set({ profiles })}
          saved={saved || typed === person}
          verify={async (channel) => {
            const answer = await doings.verify(typed.id, channel).catch(() => fail(noAnswer));
            if (answer.ok) kept.settle(answer.value);
            return answer.ok ? null : answer.error;
          }}
        />
      ) : null}
      <ArtistFields form={form} />
      <OrganiserFields form={form} />
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
      {sort === 'artist' ? <Subscribe holds={`act:${person.name}`} name={person.name} /> : null}
      <EntryFoot sort={sort} id={person.id} name={person.name} others={others} doings={doings} />
    </>
  );
}

/** What an entry is typed with. */
function usePersonFormState({ sort, person, others, channels, doings }: PersonFormProps) {
  const kept = useTyped<Artist | Organiser>(person.id, person);
  const { typed, setTyped } = kept;
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [saved, setSaved] = useState(false);
  const set = (part: Partial<Artist> & Partial<Organiser>) => {
    setTyped({ ...typed, ...part } as typeof typed);
    setSaved(false);
  };
  const save = async () => {
    const answer = await doings.savePerson(sort, typed).catch(noFormAnswer);
    setErrors(answer.ok ? {} : answer.error);
    setSaved(answer.ok);
    if (answer.ok) kept.settle(answer.value as typeof typed);
  };
  return { kept, typed, errors, set, channels, saved, person, doings, save, sort, others };
}

type PersonFormState = ReturnType<typeof usePersonFormState>;

/** Of an artist: their own words and pages, shown where a channel has a place for them. */
function ArtistFields({ form: { typed, errors, set } }: { form: PersonFormState }) {
  if (!('profiles' in typed)) return null;
  return (
    <>
      <Textarea
        mt={10}
        label="Who they are, in public words"
        autosize
        minRows={2}
        maxRows={8}
        value={typed.words}
        error={errors.words}
        onChange={(e) => set({ words: e.currentTarget.value })}
      />
      <LinksField links={typed.links} errors={errors} onChange={(links) => set({ links })} />
    </>
  );
}

/** Pages of somebody, one a line. */
function LinksField({
  links,
  errors,
  onChange,
}: {
  links: readonly string[];
  errors: Record<string, string>;
  onChange: (links: string[]) => void;
}) {
  const [typed, setTyped] = useState(links.join('\n'));
  return (
    <Textarea
      mt={10}
      label="Links, one a line"
      autosize
      minRows={1}
      maxRows={6}
      value={typed}
      error={Object.entries(errors).find(([key]) => key.startsWith('links'))?.[1]}
      onChange={(e) => {
        setTyped(e.currentTarget.value);
        onChange(
          e.currentTarget.value
            .split('\n')
            .map((text) => text.trim())
            .filter((candidate) => candidate !== ''),
        );
      }}
    />
  );
}

/** Of an organiser: the standing paragraph, how it is reached, its links. */
function OrganiserFields({ form: { typed, errors, set } }: { form: PersonFormState }) {
  if (!('boilerplate' in typed)) return null;
  return (
    <>
      <Textarea
        mt={10}
        label="Standing paragraph: {{ about_organiser }} in words"
        autosize
        minRows={2}
        maxRows={8}
        value={typed.boilerplate}
        error={errors.boilerplate}
        onChange={(e) => set({ boilerplate: e.currentTarget.value })}
      />
      <div className={classes.grid}>
        {(['phone', 'bookings', 'mail'] as const).map((key) => (
          <TextInput
            key={key}
            className={classes.w2}
            label={contactWords[key]}
            value={typed[key]}
            error={errors[key]}
            onChange={(e) => set({ [key]: e.currentTarget.value })}
          />
        ))}
        <TextInput
          className={classes.w6}
          label={contactWords.address}
          value={typed.address}
          error={errors.address}
          onChange={(e) => set({ address: e.currentTarget.value })}
        />
      </div>
      <Checkbox.Group
        mt={10}
        label="The public sees"
        value={typed.shown}
        onChange={(shown) => set({ shown: organiserParts.filter((part) => shown.includes(part)) })}
      >
        <div className={classes.row}>
          {organiserParts.map((part) => (
            <Checkbox key={part} value={part} label={contactWords[part].toLowerCase()} />
          ))}
        </div>
      </Checkbox.Group>
      <LinksField links={typed.links} errors={errors} onChange={(links) => set({ links })} />
    </>
  );
}

/** What can be said of an organiser, and what it is called. */
const contactWords: Record<(typeof organiserParts)[number], string> = {
  phone: 'Telephone',
  mail: 'E-mail',
  address: 'Postal address',
  site: 'Website',
  links: 'Links to their pages',
  bookings: 'Telephone for bookings',
};

interface ProfilesProps {
  artist: Artist;
  channels: PersonFormProps['channels'];
  errors: Record<string, string>;
  onChange: (profiles: Profile[]) => void;
  saved: boolean;
  verify: (channel: string) => Promise<string | null>;
}

function Profiles(props: ProfilesProps) {
  const listed = useListed(props);
  const { artist, said, free, onChange } = listed;
  return (
    <>
      <h3>Profiles</h3>
      {artist.profiles.map((profile, i) => (
        <ProfileRow key={profile.channel} listed={listed} profile={profile} i={i} />
      ))}
      {said ? <p className="problem">{said}</p> : null}
      {free.length > 0 ? (
        <div className={classes.row}>
          <Select
            w={180}
            aria-label="Add a profile on"
            placeholder="add a profile on …"
            data={free.map((item) => ({ value: item.id, label: item.name }))}
            value={null}
            onChange={(channel) => channel && onChange([...artist.profiles, { channel, link: '', verified: null }])}
          />
        </div>
      ) : null}
      {artist.profiles.length === 0 && free.length === 0 ? (
        <p className={classes.muted}>No connected channel has profiles.</p>
      ) : null}
    </>
  );
}

/** Profiles on channels, and asking whose they are. */
function useListed({ artist, channels, errors, onChange, saved, verify }: ProfilesProps) {
  const [said, setSaid] = useState<string | null>(null);
  const free = channels.filter(
    (channel) => channel.profiles && !artist.profiles.some((profile) => profile.channel === channel.id),
  );
  return { channels, errors, onChange, artist, saved, verify, setSaid, said, free };
}

type Listed = ReturnType<typeof useListed>;

/** One profile, and whose it is as far as was asked. */
function ProfileRow({
  listed: { channels, errors, onChange, artist, saved, verify, setSaid },
  profile,
  i,
}: {
  listed: Listed;
  profile: Profile;
  i: number;
}) {
  return (
    <div className={classes.row}>
      <TextInput
        w={330}
        label={channels.find((channel) => channel.id === profile.channel)?.name ?? profile.channel}
        value={profile.link}
        error={errors[`profiles.${i}.link`]}
        onChange={(e) =>
          onChange(
            artist.profiles.map((item) =>
              item === profile ? { ...item, link: e.currentTarget.value, verified: null } : item,
            ),
          )
        }
      />
      <span className={profile.verified === null ? undefined : profile.verified.ok ? classes.verified : classes.wrong}>
        {profile.verified === null
          ? 'not asked yet'
          : profile.verified.ok
            ? `verified: ${profile.verified.name}`
            : profile.verified.name === ''
              ? 'nobody’s: the address is wrong'
              : `belongs to ${profile.verified.name}`}
      </span>
      <button
        type="button"
        className="plainButton"
        disabled={!saved}
        title={saved ? undefined : 'Save first.'}
        onClick={() => void verify(profile.channel).then(setSaid)}
      >
        Ask whose it is
      </button>
      <button
        type="button"
        className="plainButton"
        onClick={() => onChange(artist.profiles.filter((candidate) => candidate !== profile))}
      >
        remove
      </button>
    </div>
  );
}
