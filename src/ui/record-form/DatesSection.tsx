import { Checkbox, Radio, Select, TextInput } from '@mantine/core';
import { DateInput } from '@mantine/dates';
import { useMemo, useState } from 'react';
import type { PerformanceDraft } from '@/core/draft';
import type { Venue } from '@/core/directory';
import { addDays, zoneNames } from '@/core/zones';
import { freshPartId, Section, type FieldError } from './form-parts';
import { NewVenueForm, type MakeVenue } from './NewVenueForm';
import classes from './RecordForm.module.css';

interface DatesSectionProps {
  performances: PerformanceDraft[];
  onChange: (performances: PerformanceDraft[]) => void;
  venues: ReadonlyMap<string, Venue>;
  error: FieldError;
  makeVenue: MakeVenue;
  addVenue: (venue: Venue) => void;
}

const shownAtFirst = 6;

/** When and where: one or more performances, each with its own times, zone, venue and room. */
export function DatesSection({ performances, onChange, venues, error, makeVenue, addVenue }: DatesSectionProps) {
  const [all, setAll] = useState(false);
  const [making, setMaking] = useState<number | null>(null);
  const set = (index: number, part: Partial<PerformanceDraft>) => onChange(performances.map((one, i) => (i === index ? { ...one, ...part } : one)));
  const add = () => {
    const last = performances[performances.length - 1];
    if (last) onChange([...performances, { ...last, id: freshPartId(), date: addDays(last.date, 1), repeat: null }]);
  };
  const shown = all ? performances : performances.slice(0, shownAtFirst);
  return (
    <Section id="dates" title="Dates and place">
      {shown.map((one, i) => (
        <div key={one.id} className={classes.performance} role="group" aria-label={`Performance ${i + 1}`}>
          <Times one={one} path={`performances.${i}`} error={error} set={(part) => set(i, part)} />
          <PlaceFields one={one} path={`performances.${i}`} error={error} venues={venues} set={(part) => set(i, part)} onNew={() => setMaking(i)} />
          {making === i ? (
            <NewVenueForm
              zone={one.zone}
              makeVenue={makeVenue}
              onCancel={() => setMaking(null)}
              onMade={(venue, roomId) => {
                addVenue(venue);
                set(i, { venueId: venue.id, roomId, zone: venue.zone });
                setMaking(null);
              }}
            />
          ) : null}
          {performances.length > 1 ? <div className={classes.inline}><button type="button" className="plainButton" onClick={() => onChange(performances.filter((p) => p.id !== one.id))}>Take this performance out</button></div> : null}
        </div>
      ))}
      <div className={classes.inline}>
        {performances.length > shown.length ? <button type="button" className="plainButton" onClick={() => setAll(true)}>Show all {performances.length} performances</button> : null}
        <button type="button" className="plainButton" onClick={add}>Add a performance</button>
      </div>
    </Section>
  );
}

interface PartProps {
  one: PerformanceDraft;
  path: string;
  error: FieldError;
  set: (part: Partial<PerformanceDraft>) => void;
}

function Times({ one, path, error, set }: PartProps) {
  const startError = error(`${path}.start`);
  return (
    <>
      <div className={classes.grid}>
        <DateInput
          className={classes.w3} label="Date" value={one.date} valueFormat="ddd D MMM YYYY" dateParser={parseDate} firstDayOfWeek={1} clearable={false}
          onChange={(date) => (date === null ? undefined : set({ date: String(date).slice(0, 10), repeat: null }))} error={error(`${path}.date`)}
        />
        <TextInput className={classes.w1} label="Doors" value={one.doors} onChange={(e) => set({ doors: e.currentTarget.value })} error={error(`${path}.doors`)} />
        <TextInput className={classes.w1} label="Start" value={one.start} onChange={(e) => set({ start: e.currentTarget.value, repeat: null })} error={startError} />
        <TextInput className={classes.w1} label="End" value={one.end} onChange={(e) => set({ end: e.currentTarget.value })} error={error(`${path}.end`)} />
      </div>
      <div className={classes.inline}>
        <Checkbox label="ends after midnight" checked={one.endsNextDay} onChange={(e) => set({ endsNextDay: e.currentTarget.checked })} />
        {startError?.includes('comes twice') || one.repeat !== null ? (
          <Radio.Group aria-label="Which of the two" value={one.repeat ?? ''} onChange={(value) => set({ repeat: value === 'second' ? 'second' : 'first' })}>
            <span className={classes.inline}><Radio value="first" label={`the first ${one.start}`} /><Radio value="second" label={`the second ${one.start}`} /></span>
          </Radio.Group>
        ) : null}
      </div>
    </>
  );
}

/** Reads a typed date: `2027-02-04`, `4 Feb 2027`, `Thu 4 Feb 2027`. */
function parseDate(text: string): string | null {
  if (/^\d{4}-\d{2}-\d{2}$/.test(text.trim())) return text.trim();
  const at = Date.parse(`${text.trim().replace(/^[A-Za-z]+ (?=\d)/, '')} UTC`);
  return Number.isNaN(at) ? null : new Date(at).toISOString().slice(0, 10);
}

function PlaceFields({ one, path, error, set, venues, onNew }: PartProps & { venues: ReadonlyMap<string, Venue>; onNew: () => void }) {
  const zones = useMemo(() => zoneNames(), []);
  const places = useMemo(() => [...venues.values()].map((venue) => ({ value: venue.id, label: venue.town === '' ? venue.name : `${venue.name}, ${venue.town}` })), [venues]);
  const venue = one.venueId === null ? undefined : venues.get(one.venueId);
  const pick = (id: string | null) => {
    const next = id === null ? undefined : venues.get(id);
    set({ venueId: id, roomId: next?.rooms[0]?.id ?? null, ...(next ? { zone: next.zone } : {}) });
  };
  return (
    <>
      <div className={classes.placeGrid}>
        <Select label="Venue" data={places} value={one.venueId} onChange={pick} searchable clearable clearSectionMode="clear" limit={60} placeholder="none yet" nothingFoundMessage="Not in the directory" error={error(`${path}.venueId`)} />
        <Select label="Room" data={(venue?.rooms ?? []).map((room) => ({ value: room.id, label: room.capacity === null ? room.name : `${room.name} (${room.capacity})` }))} value={one.roomId} onChange={(roomId) => set({ roomId })} clearable clearSectionMode="clear" disabled={!venue || venue.rooms.length === 0} placeholder="none" error={error(`${path}.roomId`)} />
        <Select label="Zone" data={zones} value={one.zone} onChange={(zone) => (zone === null ? undefined : set({ zone }))} searchable limit={40} error={error(`${path}.zone`)} />
      </div>
      <div className={classes.inline}><button type="button" className="plainButton" onClick={onNew}>Make a venue or room here</button></div>
    </>
  );
}
