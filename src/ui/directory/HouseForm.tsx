import { MultiSelect, Select, TagsInput, TextInput, Textarea } from '@mantine/core';
import { useMemo, useState } from 'react';
import { eventTypes } from '@/core/record/choices';
import { currencies } from '@/core/base/money';
import { zoneNames } from '@/core/base/zones';
import type { Organiser, Venue } from '@/core/record/directory';
import dynamic from 'next/dynamic';
import { notFetched } from '@/ui/not-fetched';
import type { HouseOwn } from '@/core/record/house-own';
import { noFormAnswer } from '@/ui/no-answer';
import { LeftNote, useTyped } from '@/ui/typed';
import classes from './Directory.module.css';
import type { DirectoryDoings } from './doings';

const PickPicture = dynamic(
  () => import('@/ui/record/pictures/PickPicture').then(({ PickPicture }) => PickPicture, notFetched),
  { ssr: false },
);

interface HouseFormProps {
  own: HouseOwn;
  /** The zone that counts as the house's now. */
  zone: string;
  venues: readonly Venue[];
  organisers: readonly Organiser[];
  doings: DirectoryDoings;
  /** When the last backup was made, in words. */
  backup: string;
}

/** What is usual in the house: a new record begins with it, and each of it can be another there. */
export function HouseForm({ backup, ...props }: HouseFormProps) {
  const form = useHouseForm(props);
  const { kept, errors, save, saved } = form;
  return (
    <>
      <h2>The house’s own</h2>
      <p className={classes.muted}>
        A new record begins with this, and says so; there each of it can be another. Records that are there stay as they
        are.
      </p>
      <LeftNote form={kept} name="The house’s own" />
      <UsualFacts form={form} />
      <Kinds form={form} />
      <UsualWords form={form} />
      <AboutUsFields form={form} />
      {errors.name ? <p className="problem">{errors.name}</p> : null}
      <div className={classes.row}>
        <button type="button" className="quietButton" onClick={() => void save()}>
          Save
        </button>
        {saved ? (
          <span className={classes.saved} role="status">
            Saved. New records begin with it.
          </span>
        ) : null}
      </div>
      <p className={classes.muted}>{backup}</p>
    </>
  );
}

/** What is typed of the house's own. */
function useHouseForm({ own, zone, venues, organisers, doings }: Omit<HouseFormProps, 'backup'>) {
  const kept = useTyped('house', { ...own, doorsBefore: own.doorsBefore === null ? '' : String(own.doorsBefore) });
  const { typed, setTyped } = kept;
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [saved, setSaved] = useState(false);
  const zones = useMemo(() => [...zoneNames()], []);
  const set = (part: Partial<typeof typed>) => {
    setTyped({ ...typed, ...part });
    setSaved(false);
  };
  const save = async () => {
    const doorsBefore = typed.doorsBefore.trim() === '' ? null : Number(typed.doorsBefore);
    const answer = await doings.keepOwn({ ...typed, doorsBefore }).catch(noFormAnswer);
    setErrors(answer.ok ? {} : answer.error);
    setSaved(answer.ok);
    if (answer.ok) kept.settle(typed);
  };
  const rooms = venues.find((venue) => venue.id === typed.venueId)?.rooms ?? [];
  return { kept, typed, errors, saved, set, save, rooms, zones, zone, venues, organisers };
}

interface UsualProps {
  form: ReturnType<typeof useHouseForm>;
}

/** What a new record takes from lists. */
function UsualFacts({ form: { typed, errors, set, rooms, zones, zone, venues, organisers } }: UsualProps) {
  return (
    <div className={classes.grid}>
      <Select
        className={classes.w2}
        label="Venue"
        placeholder="none is usual"
        data={venues.map(({ id, name, town }) => ({ value: id, label: `${name}, ${town}` }))}
        value={typed.venueId}
        error={errors.venueId}
        onChange={(venueId) => set({ venueId, roomId: null })}
        searchable
        clearable
        limit={40}
      />
      <Select
        className={classes.w2}
        label="Room"
        placeholder="none is usual"
        data={rooms.map(({ id, name }) => ({ value: id, label: name }))}
        value={typed.roomId}
        error={errors.roomId}
        onChange={(roomId) => set({ roomId })}
        disabled={rooms.length === 0}
        clearable
      />
      <Select
        className={classes.w2}
        label="Organiser"
        placeholder="none is usual"
        data={organisers.map(({ id, name }) => ({ value: id, label: name }))}
        value={typed.organiserId}
        error={errors.organiserId}
        onChange={(organiserId) => set({ organiserId })}
        searchable
        clearable
        limit={40}
      />
      <TextInput
        className={classes.w2}
        label="Doors, minutes before the start"
        placeholder="not usual"
        inputMode="numeric"
        value={typed.doorsBefore}
        error={errors.doorsBefore}
        onChange={(e) => set({ doorsBefore: e.currentTarget.value })}
      />
      <Select
        className={classes.w2}
        label="Zone of the house"
        placeholder={zone}
        description="The public is told of any other."
        data={zones}
        value={typed.zone}
        error={errors.zone}
        onChange={(next) => set({ zone: next })}
        searchable
        clearable
        limit={40}
      />
      <Select
        className={classes.w2}
        label="Currency"
        placeholder="EUR"
        description="Where the venue’s country has none."
        data={[...currencies]}
        value={typed.currency}
        error={errors.currency}
        onChange={(next) => set({ currency: currencies.find((currency) => currency === next) ?? null })}
        searchable
        clearable
        limit={60}
      />
    </div>
  );
}

/** Kinds of event beside the usual ones, and those that are never public. */
function Kinds({ form: { typed, errors, set } }: UsualProps) {
  return (
    <div className={classes.grid}>
      <TagsInput
        className={classes.w3}
        label="Kinds of event of our own"
        description="Beside the usual ones. Channels place them under Channels."
        value={typed.types}
        error={errors.types}
        onChange={(types) => set({ types })}
        maxTags={40}
        clearable
      />
      <MultiSelect
        className={classes.w3}
        label="Kinds that are never public"
        description="They go nowhere, whatever a record says."
        data={[...new Set([...eventTypes, ...typed.types, ...typed.closedTypes])]}
        value={typed.closedTypes}
        error={errors.closedTypes}
        onChange={(closedTypes) => set({ closedTypes })}
        searchable
        clearable
      />
    </div>
  );
}

/** What it takes in words. */
function UsualWords({ form: { typed, errors, set } }: UsualProps) {
  return (
    <>
      <TextInput
        mt={10}
        label="Age guidance"
        value={typed.age}
        error={errors.age}
        onChange={(e) => set({ age: e.currentTarget.value })}
      />
      <Textarea
        mt={10}
        label="Access"
        autosize
        minRows={2}
        maxRows={8}
        value={typed.access}
        error={errors.access}
        onChange={(e) => set({ access: e.currentTarget.value })}
      />
      <Textarea
        mt={10}
        label="Refunds"
        autosize
        minRows={2}
        maxRows={8}
        value={typed.refunds}
        error={errors.refunds}
        onChange={(e) => set({ refunds: e.currentTarget.value })}
      />
    </>
  );
}

/** What the house says of itself: where one writes to it, on which map its places are shown, its logo. */
function AboutUsFields({ form: { typed, errors, set } }: UsualProps) {
  const [picking, setPicking] = useState(false);
  return (
    <>
      <h3>About us</h3>
      <div className={classes.grid}>
        <TextInput
          className={classes.w2}
          label="Where one writes to us"
          placeholder="desk@yard.example"
          description="{{ house_mail }} in words."
          value={typed.mail}
          error={errors.mail}
          onChange={(e) => set({ mail: e.currentTarget.value })}
        />
        <TextInput
          className={classes.w4}
          label="Map"
          placeholder="geo: addresses, which whatever keeps maps opens"
          description="The address of a map, with {lat} and {lon} where the place goes."
          value={typed.map}
          error={errors.map}
          onChange={(e) => set({ map: e.currentTarget.value })}
        />
      </div>
      <div className={classes.row} role="group" aria-label="Logo">
        {typed.logoId === null ? (
          <span>No logo.</span>
        ) : (
          // eslint-disable-next-line @next/next/no-img-element -- drawn by our own route at the size shown
          <img className={classes.logo} src={`/api/pictures/${typed.logoId}?width=200`} alt="The house’s logo" />
        )}
        <button type="button" className="plainButton" aria-expanded={picking} onClick={() => setPicking(!picking)}>
          Pick the logo
        </button>
        {typed.logoId === null ? null : (
          <button type="button" className="plainButton" onClick={() => set({ logoId: null })}>
            Without one
          </button>
        )}
        {errors.logoId ? <span className="problem">{errors.logoId}</span> : null}
      </div>
      {picking ? (
        <PickPicture
          used={new Set(typed.logoId === null ? [] : [typed.logoId])}
          onPick={(picture) => {
            set({ logoId: picture.pictureId });
            setPicking(false);
          }}
        />
      ) : null}
    </>
  );
}
