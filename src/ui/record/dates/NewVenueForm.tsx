import { Select, TextInput } from '@mantine/core';
import { useMemo, useState } from 'react';
import type { Venue } from '@/core/record/directory';
import type { Result } from '@/core/base/result';
import { zoneNames } from '@/core/base/zones';
import { TownFinder } from '@/ui/town-finder';
import { LeftNote, useTyped } from '@/ui/typed';
import classes from '../RecordForm.module.css';
import { haveZones } from '@/ui/zones/every-zone';

/** Makes a venue in the directory; the error names fields. */
export type MakeVenue = (
  input: unknown,
) => Promise<Result<{ venue: Venue; roomId: string | null }, Record<string, string>>>;

interface NewVenueFormProps {
  makeVenue: MakeVenue;
  onMade: (venue: Venue, roomId: string | null) => void;
  onCancel: () => void;
}

/** A venue and its room, made in place. A venue that is known by name and town gets the room added. */
export function NewVenueForm(props: NewVenueFormProps) {
  const form = useVenueTyped(props);
  const { typed, setPoint, setTyped, setErrors, busy, make, onCancel } = form;
  return (
    <div className={classes.newVenue} role="group" aria-label="New venue">
      <LeftNote form={form.kept} name="It" />
      <VenueFields form={form} />
      <TownFinder
        town={typed.town}
        country={typed.country}
        onFound={(zone, found) => {
          setPoint(found);
          setTyped((now) => ({ ...now, zone }));
          setErrors(({ zone: _, ...rest }) => rest);
        }}
      />
      <div className={classes.inline}>
        <button type="button" className="quietButton" disabled={busy} onClick={() => void make()}>
          Put it in the directory
        </button>
        <button type="button" className="plainButton" onClick={onCancel}>
          Never mind
        </button>
      </div>
    </div>
  );
}

/** What is typed of a venue. */
function useVenueTyped({ makeVenue, onMade, onCancel }: NewVenueFormProps) {
  const kept = useTyped('new-venue', {
    name: '',
    town: '',
    address: '',
    country: '',
    zone: '',
    room: '',
    capacity: '',
  });
  const { typed, setTyped } = kept;
  const [point, setPoint] = useState<{ lat: number; lon: number } | null>(null);
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [busy, setBusy] = useState(false);
  const zones = useMemo(() => zoneNames(), []);
  const field = (name: keyof typeof typed, label: string, width: string | undefined) => (
    <TextInput
      className={width}
      label={label}
      value={typed[name]}
      error={errors[name]}
      onChange={(e) => {
        const { value } = e.currentTarget;
        if (name === 'town' || name === 'country') setPoint(null);
        setTyped((now) => ({ ...now, [name]: value }));
      }}
    />
  );
  const make = async () => {
    const capacity = typed.capacity.trim() === '' ? null : Number(typed.capacity);
    if (capacity !== null && !(Number.isInteger(capacity) && capacity > 0))
      return setErrors({ capacity: 'Write a whole number of places, or leave it empty.' });
    setBusy(true);
    const making = makeVenue({ ...typed, capacity, point }).then(async (made) => {
      if (made.ok) await haveZones([made.value.venue.zone]);
      return made;
    });
    const made = await making.catch(() => ({
      ok: false as const,
      error: { name: 'It did not reach the house. Try again.' },
    }));
    setBusy(false);
    if (!made.ok) return setErrors(made.error);
    kept.settle(typed);
    onMade(made.value.venue, made.value.roomId);
  };
  const cancel = () => {
    kept.forget();
    onCancel();
  };
  return { kept, field, zones, typed, errors, setTyped, setPoint, setErrors, busy, make, onCancel: cancel };
}

type VenueTyped = ReturnType<typeof useVenueTyped>;

/** Its name, where it is, and its zone. */
function VenueFields({ form: { field, zones, typed, errors, setTyped } }: { form: VenueTyped }) {
  return (
    <div className={classes.grid}>
      {field('name', 'Venue name', classes.w4)}
      {field('town', 'Town', classes.w2)}
      {field('address', 'Address', classes.w4)}
      {field('country', 'Country', classes.w2)}
      {field('room', 'Room', classes.w2)}
      {field('capacity', 'Places', classes.w1)}
      <Select
        className={classes.w3}
        label="Zone of the venue"
        data={zones}
        value={typed.zone === '' ? null : typed.zone}
        placeholder="by the town"
        searchable
        limit={40}
        error={errors.zone}
        onChange={(value) => setTyped({ ...typed, zone: value ?? typed.zone })}
      />
    </div>
  );
}
