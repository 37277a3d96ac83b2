import dynamic from 'next/dynamic';
import { notFetched } from '@/ui/not-fetched';
import { Checkbox, Radio, Select, TextInput } from '@mantine/core';
import { memo, useCallback, useMemo, useRef, useState } from 'react';
import type { PerformanceDraft } from '@/core/record/draft';
import { momentWords, parseTimeOfDay, zonePlace } from '@/core/dates/date-words';
import { usualDoors } from '@/core/dates/usual-doors';
import { doorsDate, readingTwice, type Reading } from '@/core/dates/readings';
import { isoDate } from '@/core/base/scalars';
import { instantOf, isZone, zoneNames } from '@/core/base/zones';
import { useParts } from '../use-parts';
import { More, narrow, RowProblems } from '../form-parts';
import type { PerformanceEditorProps } from './dates-props';
import { onlyOne, placedAt } from '@/core/record/placed-at';
import { DateField } from '@/ui/date-field';
import { May } from '@/ui/may/May';
import classes from '../RecordForm.module.css';
import { haveZones, useZone } from '@/ui/zones/every-zone';
import { noAnswer } from '@/ui/no-answer';

const MoreOfDate = dynamic(() => import('./MoreOfDate').then(({ MoreOfDate }) => MoreOfDate, notFetched));
const NewVenueForm = dynamic(() => import('./NewVenueForm').then(({ NewVenueForm }) => NewVenueForm, notFetched));

/** Everything about one performance: when, where, and what befell it. */
export function PerformanceEditor(props: PerformanceEditorProps) {
  const editing = useEditing(props);
  const { place, path, error, set, onNew, making, setMaking } = editing;
  return (
    <>
      <Times {...props} />
      <PlaceFields performance={place} path={path} error={error} set={set} venues={props.venues} onNew={onNew} />
      {making ? (
        <NewVenueForm
          makeVenue={props.makeVenue}
          onCancel={() => setMaking(false)}
          onMade={(venue, roomId) => {
            props.addVenue(venue);
            set({ venueId: venue.id, roomId, setUpId: null, zone: venue.zone });
            setMaking(false);
          }}
        />
      ) : null}
      <More
        label="open dates, status, several days, its own link or line-up"
        open={editing.told || [`${path}.link`, `${path}.lastDate`].some((field) => error(field))}
      >
        <MoreOfDate {...props} />
      </More>
    </>
  );
}

/** What one performance is edited with. */
function useEditing(props: PerformanceEditorProps) {
  const { performance, set, path, error } = props;
  const [making, setMaking] = useState(false);
  const place = useParts(performance, placeParts);
  const onNew = useCallback(() => setMaking(true), []);
  const told =
    performance.pencilled ||
    performance.turn !== 'none' ||
    performance.soldOut ||
    performance.note !== '' ||
    performance.link !== '' ||
    performance.lineUpExtra !== '' ||
    performance.lineUpOut.length > 0 ||
    performance.lastDate !== null ||
    performance.endHidden ||
    performance.precision !== 'exact';
  return { told, path, error, performance, set, props, place, onNew, making, setMaking };
}

function Times({ performance, path, error, set, doorsBefore }: PerformanceEditorProps) {
  const atStart = useUsualDoors({ performance, set, doorsBefore });
  const timed = performance.precision === 'exact' || performance.precision === 'day';
  const twice = useMemo(() => typedTwice(performance), [performance]);
  const onDate = useCallback((date: string) => set({ date, repeat: null }), [set]);
  return (
    <>
      <div className={classes.grid}>
        <DateField
          className={classes.w3}
          label={performance.precision === 'month' ? 'Any day of the month' : 'Date'}
          value={performance.date}
          disabled={performance.precision === 'open'}
          keepAs={`date ${performance.id}`}
          onDate={onDate}
          error={error(`${path}.date`)}
        />
        {timed ? (
          <>
            <TextInput
              className={classes.w1}
              label="Doors"
              value={performance.doors}
              onChange={(e) => set({ doors: e.currentTarget.value })}
              {...narrow(error, path, 'doors')}
            />
            <TextInput
              className={classes.w1}
              label="Start"
              value={performance.start}
              onChange={(e) => set({ start: e.currentTarget.value, repeat: null })}
              {...atStart}
              {...narrow(error, path, 'start')}
            />
            <TextInput
              className={classes.w1}
              label="End"
              value={performance.end}
              onChange={(e) => set({ end: e.currentTarget.value })}
              {...narrow(error, path, 'end')}
            />
          </>
        ) : (
          <p className={`${classes.w3} ${classes.muted}`}>
            {performance.precision === 'open'
              ? 'The date is open: channels that need one are told so.'
              : 'Only the month counts: the day is not shown.'}
          </p>
        )}
      </div>
      <RowProblems error={error} row={path} fields={['doors', 'start', 'end']} />
      {timed ? (
        <div className={classes.inline}>
          <Checkbox
            label="ends after midnight"
            checked={performance.endsNextDay}
            onChange={(e) => set({ endsNextDay: e.currentTarget.checked })}
          />
          {twice ? (
            <Radio.Group
              aria-label="Which of the two"
              value={performance.repeat ?? ''}
              onChange={(value) => set({ repeat: value === 'second' ? 'second' : 'first' })}
            >
              <span className={classes.inline}>
                <Radio value="first" label={`the first ${twice.time}`} />
                <Radio value="second" label={`the second ${twice.time}`} />
              </span>
            </Radio.Group>
          ) : null}
          {opensBefore(performance) ? <span className={classes.muted}>doors open the evening before</span> : null}
          <HereTime performance={performance} />
        </div>
      ) : null}
    </>
  );
}

/** Lets the doors go with the start, where they are those that are usual for it. */
function useUsualDoors({
  performance,
  set,
  doorsBefore: before,
}: Pick<PerformanceEditorProps, 'performance' | 'set' | 'doorsBefore'>) {
  const usual = useRef(false);
  if (before === null) return {};
  const start = parseTimeOfDay(performance.start);
  return {
    onFocus: () => {
      usual.current = performance.doors === (start === null ? '' : usualDoors(start, before));
    },
    onBlur: () => {
      if (usual.current && start !== null) set({ doors: usualDoors(start, before) });
    },
  };
}

const isDate = (text: string) => isoDate.safeParse(text).success;

/** Whether the doors that are typed open before the midnight after which it begins. */
function opensBefore({ date, ...typed }: PerformanceDraft): boolean {
  if (!isDate(date)) return false;
  const [doors = null, start = null] = [typed.doors, typed.start].map(parseTimeOfDay);
  return doorsDate({ date, doors, start }) !== date;
}

/** The reading of what is typed that the clocks give twice. */
function typedTwice({ date, lastDate, endsNextDay, zone, ...typed }: PerformanceDraft): Reading | null {
  const [doors = null, start = null, end = null] = [typed.doors, typed.start, typed.end].map(parseTimeOfDay);
  return isDate(date) && isZone(zone) ? readingTwice({ date, lastDate, endsNextDay, doors, start, end, zone }) : null;
}

/** The start as the reader's own clock says it, where that is another zone. */
function HereTime({ performance }: { performance: PerformanceDraft }) {
  const here = useMemo(() => Intl.DateTimeFormat().resolvedOptions().timeZone, []);
  const known = useZone(here);
  const time = parseTimeOfDay(performance.start);
  const at =
    time !== null && isDate(performance.date) && isZone(performance.zone)
      ? instantOf({ date: performance.date, time }, performance.zone, performance.repeat ?? 'first')
      : null;
  if (at === null || here === performance.zone || !known || !zoneNames().includes(here)) return null;
  const there = momentWords(at, here);
  return there === momentWords(at, performance.zone) ? null : (
    <span>
      {there} in {zonePlace(here)}, where you are
    </span>
  );
}

/** What of a performance says where it is. */
const placeParts = ['venueId', 'roomId', 'setUpId', 'zone'] as const;

interface PlaceFieldsProps extends Pick<PerformanceEditorProps, 'path' | 'error' | 'set' | 'venues'> {
  performance: Pick<PerformanceDraft, (typeof placeParts)[number]>;
  onNew: () => void;
}

const PlaceFields = memo(function PlaceFields(props: PlaceFieldsProps) {
  const choice = usePlaces(props);
  const { places, performance, pick, error, path, onNew, zoning, setZoning } = choice;
  return (
    <>
      <div className={classes.placeGrid}>
        <Select
          label="Venue"
          data={places}
          value={performance.venueId}
          onChange={pick}
          searchable
          clearable
          clearSectionMode="clear"
          limit={60}
          placeholder="none yet"
          nothingFoundMessage="Not in the directory"
          error={error(`${path}.venueId`)}
        />
        <RoomFields choice={choice} />
      </div>
      <div className={classes.inline}>
        <May right="write">
          <button type="button" className="plainButton" onClick={onNew}>
            Make a venue or room here
          </button>
        </May>
        {zoning ? null : (
          <span>
            {performance.zone}{' '}
            <button type="button" className="plainButton" onClick={() => setZoning(true)}>
              another zone
            </button>
          </span>
        )}
      </div>
    </>
  );
});

/** Where it is, as far as it is chosen. */
function usePlaces({ performance, path, error, set, venues, onNew }: PlaceFieldsProps) {
  const zones = useMemo(() => zoneNames(), []);
  const [zoning, setZoning] = useState(false);
  const [unknown, setUnknown] = useState(false);
  const places = useMemo(
    () =>
      [...venues.values()].map((venue) => ({
        value: venue.id,
        label: venue.town === '' ? venue.name : `${venue.name}, ${venue.town}`,
      })),
    [venues],
  );
  const venue = performance.venueId === null ? undefined : venues.get(performance.venueId);
  const room = venue?.rooms.find((room) => room.id === performance.roomId);
  const pick = (id: string | null) => {
    const next = id === null ? undefined : venues.get(id);
    set(next ? placedAt(next) : { venueId: id, roomId: null, setUpId: null });
  };
  return {
    venue,
    room,
    performance,
    set,
    error,
    path,
    zoning,
    zones,
    setUnknown,
    unknown,
    places,
    pick,
    onNew,
    setZoning,
  };
}

type Places = ReturnType<typeof usePlaces>;

/** Room, set-up and zone, as far as the place has them. */
function RoomFields({
  choice: { venue, room, performance, set, error, path, zoning, zones, setUnknown, unknown },
}: {
  choice: Places;
}) {
  return (
    <>
      {venue ? (
        <Select
          label="Room"
          data={venue.rooms.map((room) => ({
            value: room.id,
            label: room.capacity === null ? room.name : `${room.name} (${room.capacity})`,
          }))}
          value={performance.roomId}
          onChange={(roomId) =>
            set({ roomId, setUpId: onlyOne(venue.rooms.find((room) => room.id === roomId)?.setUps)?.id ?? null })
          }
          clearable
          clearSectionMode="clear"
          disabled={venue.rooms.length === 0}
          placeholder={venue.rooms.length > 1 ? 'pick one' : 'none'}
          error={error(`${path}.roomId`)}
        />
      ) : null}
      {room && room.setUps.length > 0 ? (
        <Select
          label="Set-up"
          data={room.setUps.map((setUp) => ({ value: setUp.id, label: `${setUp.name} (${setUp.capacity})` }))}
          value={performance.setUpId}
          onChange={(setUpId) => set({ setUpId })}
          clearable
          clearSectionMode="clear"
          placeholder={room.setUps.length > 1 ? 'pick one' : 'none'}
          error={error(`${path}.setUpId`)}
        />
      ) : null}
      {zoning || error(`${path}.zone`) ? (
        <Select
          label="Zone"
          data={zones}
          value={performance.zone}
          onChange={(zone) =>
            zone !== null &&
            void haveZones([zone]).then(
              () => {
                setUnknown(false);
                set({ zone, repeat: null });
              },
              () => setUnknown(true),
            )
          }
          searchable
          limit={40}
          allowDeselect={false}
          error={unknown ? noAnswer : error(`${path}.zone`)}
        />
      ) : null}
    </>
  );
}
