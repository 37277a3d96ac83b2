import { noFormAnswer } from '@/ui/no-answer';
import { LeftNote, useTyped } from '@/ui/typed';
import { Select, Textarea, TextInput } from '@mantine/core';
import { useMemo, useState } from 'react';
import type { Room, SetUp, Venue } from '@/core/record/directory';
import { zoneNames } from '@/core/base/zones';
import { Subscribe } from '@/ui/subscribe';
import { TownFinder } from '@/ui/town-finder';
import dynamic from 'next/dynamic';
import { notFetched } from '@/ui/not-fetched';
import classes from './Directory.module.css';
import type { DirectoryDoings } from './doings';
import { EntryFoot } from './EntryFoot';

const PointMap = dynamic(() => import('./PointMap').then(({ PointMap }) => PointMap, notFetched), { ssr: false });

interface VenueFormProps {
  venue: Venue;
  others: readonly Venue[];
  channels: { id: string; name: string; venues: boolean }[];
  doings: DirectoryDoings;
}

type RoomDraft = Omit<Room, 'capacity' | 'changeover' | 'setUps'> & {
  capacity: string;
  changeover: string;
  setUps: SetUpDraft[];
};
type SetUpDraft = Omit<SetUp, 'capacity' | 'holds'> & {
  capacity: string;
  holds: { id: string; name: string; seats: string }[];
};

const freshId = () => `x${crypto.randomUUID().replaceAll('-', '').slice(0, 12)}`;
const number = (text: string) => (text.trim() === '' ? null : Number(text));

/** A venue: where it is, how to find it, its rooms with their set-ups, and its ids on channels. */
export function VenueForm(props: VenueFormProps) {
  const form = useVenueFormState(props);
  const { kept, typed, setTyped, setSaved, rooms, errors, setRooms, other, save, saved, venue, others, doings } = form;
  return (
    <>
      <h2>{typed.name || 'Venue'}</h2>
      <LeftNote form={kept} name="It" />
      <VenueGrid form={form} />
      <TownFinder
        town={typed.town}
        country={typed.country}
        onFound={(zone, point) => {
          setTyped((now) => ({ ...now, zone, ...(point ? { lat: String(point.lat), lon: String(point.lon) } : {}) }));
          setSaved(false);
        }}
      />
      <OnMap form={form} />
      <h3>Rooms</h3>
      {rooms.map((room, i) => (
        <RoomFields
          key={room.id}
          room={room}
          at={`rooms.${i}`}
          errors={errors}
          onChange={(next) => {
            setRooms(rooms.map((roomDraft) => (roomDraft.id === room.id ? next : roomDraft)));
            setSaved(false);
          }}
          onRemove={() => setRooms(rooms.filter((roomDraft) => roomDraft.id !== room.id))}
        />
      ))}
      <div className={classes.row}>
        <button
          type="button"
          className="plainButton"
          onClick={() => setRooms([...rooms, { id: freshId(), name: '', capacity: '', changeover: '0', setUps: [] }])}
        >
          Add a room
        </button>
      </div>
      {other.map(([key, words]) => (
        <p key={key} className="problem">
          {words}
        </p>
      ))}
      <div className={classes.row}>
        <button type="button" className="quietButton" onClick={() => void save()}>
          Save the venue
        </button>
        {saved ? (
          <span className={classes.saved} role="status">
            Saved.
          </span>
        ) : null}
      </div>
      <Subscribe holds={`venue:${venue.id}`} name={venue.name} />
      <EntryFoot sort="venue" id={venue.id} name={venue.name} others={others} doings={doings} />
    </>
  );
}

/** What is typed of a venue: as it stands, in texts. */
function venueDraft(venue: Venue) {
  return {
    name: venue.name,
    town: venue.town,
    address: venue.address,
    country: venue.country,
    zone: venue.zone,
    phone: venue.phone,
    site: venue.site,
    findIt: venue.findIt,
    channelIds: venue.channelIds,
    lat: venue.point ? String(venue.point.lat) : '',
    lon: venue.point ? String(venue.point.lon) : '',
    rooms: venue.rooms.map(roomDraft),
  };
}
type VenueDraft = ReturnType<typeof venueDraft>;

/** What a venue is typed with. */
function useVenueFormState({ venue, others, channels, doings }: VenueFormProps) {
  const kept = useTyped(venue.id, venueDraft(venue));
  const { rooms, ...typed } = kept.typed;
  const setTyped = (next: (now: VenueDraft) => VenueDraft) => kept.setTyped(next);
  const setRooms = (rooms: RoomDraft[]) => setTyped((now) => ({ ...now, rooms }));
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [saved, setSaved] = useState(false);
  const zones = useMemo(() => zoneNames(), []);
  const set = (part: Partial<typeof typed>) => {
    setTyped((now) => ({ ...now, ...part }));
    setSaved(false);
  };
  const field = (
    name: 'name' | 'town' | 'address' | 'country' | 'phone' | 'site' | 'lat' | 'lon',
    label: string,
    width: string | undefined,
  ) => (
    <TextInput
      className={width}
      label={label}
      value={typed[name]}
      error={errors[name] ?? (name === 'lat' || name === 'lon' ? errors[`point.${name}`] : undefined)}
      onChange={(e) => set({ [name]: e.currentTarget.value })}
    />
  );
  const save = async () => {
    const { lat, lon, ...rest } = typed;
    const point = lat.trim() === '' && lon.trim() === '' ? null : { lat: coordinates(lat), lon: coordinates(lon) };
    const answer = await doings.saveVenue(venue.id, { ...rest, point, rooms: rooms.map(roomOf) }).catch(noFormAnswer);
    setErrors(answer.ok ? {} : answer.error);
    setSaved(answer.ok);
    if (answer.ok) kept.settle(kept.typed);
  };
  const other = Object.entries(errors).filter(([key]) => key.startsWith('rooms'));
  return {
    kept,
    field,
    zones,
    typed,
    errors,
    set,
    channels,
    setTyped,
    setSaved,
    rooms,
    setRooms,
    other,
    save,
    saved,
    venue,
    others,
    doings,
  };
}

type VenueFormState = ReturnType<typeof useVenueFormState>;

/** Where it is, how it is reached, and what channels call it. */
function VenueGrid({ form: { field, zones, typed, errors, set, channels } }: { form: VenueFormState }) {
  const registers = channels.filter(({ id, venues }) => venues || (typed.channelIds[id] ?? '') !== '');
  return (
    <div className={classes.grid}>
      {field('name', 'Name', classes.w4)}
      {field('town', 'Town', classes.w2)}
      {field('address', 'Street and number', classes.w4)}
      {field('country', 'Country', classes.w2)}
      <Select
        className={classes.w2}
        label="Zone"
        data={zones}
        value={typed.zone}
        searchable
        limit={40}
        allowDeselect={false}
        error={errors.zone}
        onChange={(zone) => set({ zone: zone ?? typed.zone })}
      />
      {field('lat', 'Latitude', classes.w1)}
      {field('lon', 'Longitude', classes.w1)}
      {field('phone', 'Telephone', classes.w2)}
      {field('site', 'Website', classes.w3)}
      <Textarea
        className={classes.w3}
        label="How to find it"
        autosize
        minRows={1}
        maxRows={4}
        value={typed.findIt}
        error={errors.findIt}
        onChange={(e) => set({ findIt: e.currentTarget.value })}
      />
      {registers.map(({ id, name }) => (
        <TextInput
          key={id}
          className={classes.w2}
          label={`Its id on ${name}`}
          value={typed.channelIds[id] ?? ''}
          placeholder="none"
          onChange={(e) => set({ channelIds: withId(typed.channelIds, id, e.currentTarget.value) })}
        />
      ))}
    </div>
  );
}

/** Degrees as typed; `null`: no number. */
function coordinates(text: string): number | null {
  return /^\s*-?\d{1,3}(?:[.,]\d{1,12})?\s*$/.test(text) ? Number(text.replace(',', '.')) : null;
}

/** Its point, set on a map. */
function OnMap({ form: { typed, set } }: { form: VenueFormState }) {
  const [open, setOpen] = useState(false);
  const [lat, lon] = [coordinates(typed.lat), coordinates(typed.lon)];
  const there = lat !== null && lon !== null && Math.abs(lat) <= 90 && Math.abs(lon) <= 180;
  return (
    <>
      <div className={classes.row}>
        <button type="button" className="plainButton" aria-expanded={open} onClick={() => setOpen(!open)}>
          {there ? 'Move its point on a map' : 'Set its point on a map'}
        </button>
      </div>
      {open ? (
        <PointMap
          point={there ? { lat, lon } : null}
          onPoint={(point) => set({ lat: String(point.lat), lon: String(point.lon) })}
        />
      ) : null}
    </>
  );
}

function withId(ids: Record<string, string>, channel: string, value: string): Record<string, string> {
  const { [channel]: _, ...rest } = ids;
  return value.trim() === '' ? rest : { ...rest, [channel]: value };
}

function roomDraft(room: Room): RoomDraft {
  return {
    ...room,
    capacity: room.capacity === null ? '' : String(room.capacity),
    changeover: String(room.changeover),
    setUps: room.setUps.map((setUp) => ({
      ...setUp,
      capacity: String(setUp.capacity),
      holds: setUp.holds.map((hold) => ({ ...hold, seats: String(hold.seats) })),
    })),
  };
}

function roomOf(room: RoomDraft) {
  return {
    ...room,
    capacity: number(room.capacity),
    changeover: number(room.changeover) ?? 0,
    setUps: room.setUps.map((setUp) => ({
      ...setUp,
      capacity: number(setUp.capacity),
      holds: setUp.holds.map((hold) => ({ ...hold, seats: number(hold.seats) })),
    })),
  };
}

interface RoomFieldsProps {
  room: RoomDraft;
  at: string;
  errors: Record<string, string>;
  onChange: (room: RoomDraft) => void;
  onRemove: () => void;
}

function RoomFields(props: RoomFieldsProps) {
  const changing = useRoomState(props);
  const { room } = changing;
  return (
    <div className={classes.room} role="group" aria-label={room.name || 'New room'}>
      <RoomHead changing={changing} />
      {room.setUps.map((setUpDraft, i) => (
        <SetUpRow key={setUpDraft.id} changing={changing} setUpDraft={setUpDraft} i={i} />
      ))}
    </div>
  );
}

/** What a room is changed with. */
function useRoomState({ room, at, errors, onChange, onRemove }: RoomFieldsProps) {
  const setUp = (id: string, part: Partial<SetUpDraft>) =>
    onChange({ ...room, setUps: room.setUps.map((setUp) => (setUp.id === id ? { ...setUp, ...part } : setUp)) });
  return { errors, at, setUp, onChange, room, onRemove };
}

type RoomState = ReturnType<typeof useRoomState>;

/** The room itself: its name, its places, its changeover. */
function RoomHead({ changing: { room, errors, at, onChange, onRemove } }: { changing: RoomState }) {
  return (
    <div className={classes.row}>
      <TextInput
        w={220}
        label="Room"
        value={room.name}
        error={errors[`${at}.name`]}
        onChange={(e) => onChange({ ...room, name: e.currentTarget.value })}
      />
      <TextInput
        w={80}
        label="Places"
        value={room.capacity}
        error={errors[`${at}.capacity`]}
        onChange={(e) => onChange({ ...room, capacity: e.currentTarget.value })}
      />
      <TextInput
        w={120}
        label="Changeover, min"
        value={room.changeover}
        error={errors[`${at}.changeover`]}
        onChange={(e) => onChange({ ...room, changeover: e.currentTarget.value })}
      />
      <button
        type="button"
        className="plainButton"
        onClick={() =>
          onChange({
            ...room,
            setUps: [...room.setUps, { id: freshId(), name: '', capacity: room.capacity, holds: [] }],
          })
        }
      >
        Add a set-up
      </button>
      <button type="button" className="plainButton" onClick={onRemove}>
        Remove the room
      </button>
    </div>
  );
}

/** One set-up of the room, with the seats that are held. */
function SetUpRow({
  changing: { errors, at, setUp, onChange, room },
  setUpDraft,
  i,
}: {
  changing: RoomState;
  setUpDraft: SetUpDraft;
  i: number;
}) {
  return (
    <div className={`${classes.row} ${classes.setUp}`} role="group" aria-label={setUpDraft.name || 'New set-up'}>
      <TextInput
        w={140}
        label="Set-up"
        value={setUpDraft.name}
        error={errors[`${at}.setUps.${i}.name`]}
        onChange={(e) => setUp(setUpDraft.id, { name: e.currentTarget.value })}
      />
      <TextInput
        w={80}
        label="Capacity"
        value={setUpDraft.capacity}
        error={errors[`${at}.setUps.${i}.capacity`]}
        onChange={(e) => setUp(setUpDraft.id, { capacity: e.currentTarget.value })}
      />
      {setUpDraft.holds.map((hold, h) => (
        <span key={hold.id} className={classes.row}>
          <TextInput
            w={110}
            label="Held for"
            value={hold.name}
            error={errors[`${at}.setUps.${i}.holds.${h}.name`]}
            onChange={(e) =>
              setUp(setUpDraft.id, {
                holds: setUpDraft.holds.map((item) =>
                  item.id === hold.id ? { ...item, name: e.currentTarget.value } : item,
                ),
              })
            }
          />
          <TextInput
            w={50}
            label="Seats"
            value={hold.seats}
            error={errors[`${at}.setUps.${i}.holds.${h}.seats`]}
            onChange={(e) =>
              setUp(setUpDraft.id, {
                holds: setUpDraft.holds.map((item) =>
                  item.id === hold.id ? { ...item, seats: e.currentTarget.value } : item,
                ),
              })
            }
          />
        </span>
      ))}
      <button
        type="button"
        className="plainButton"
        onClick={() => setUp(setUpDraft.id, { holds: [...setUpDraft.holds, { id: freshId(), name: '', seats: '' }] })}
      >
        hold seats
      </button>
      <button
        type="button"
        className="plainButton"
        onClick={() => onChange({ ...room, setUps: room.setUps.filter((setUp) => setUp.id !== setUpDraft.id) })}
      >
        remove
      </button>
    </div>
  );
}
