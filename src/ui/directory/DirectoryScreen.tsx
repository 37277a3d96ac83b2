'use client';

import { Fields } from '@/ui/may/Fields';
import { useMay } from '@/ui/may/May';
import { TextInput } from '@mantine/core';
import dynamic from 'next/dynamic';
import { useMemo, useState } from 'react';
import type { Artist, Organiser, Venue, Wording } from '@/core/record/directory';
import type { HouseOwn } from '@/core/record/house-own';
import type { KeptPicture } from '@/views/pictures';
import { notFetched } from '@/ui/not-fetched';
import { NewVenueForm } from '@/ui/record/dates/NewVenueForm';
import { Still, useReady } from '@/ui/ready';
import classes from './Directory.module.css';
import type { DirectoryDoings } from './doings';
import { NewEntry } from './NewEntry';
import { PersonForm } from './PersonForm';
import { VenueForm } from './VenueForm';
import { WordingForm } from './WordingForm';

const PictureShelf = dynamic(() => import('./PictureShelf').then(({ PictureShelf }) => PictureShelf, notFetched));
const HouseForm = dynamic(() => import('./HouseForm').then(({ HouseForm }) => HouseForm, notFetched));

interface DirectoryScreenProps {
  venues: (Venue & { uses: number })[];
  artists: (Artist & { uses: number })[];
  organisers: (Organiser & { uses: number })[];
  wordings: Wording[];
  own: HouseOwn;
  pictures: KeptPicture[];
  zone: string;
  /** When the last backup was made, in words. */
  backup: string;
  channels: { id: string; name: string; profiles: boolean; venues: boolean }[];
  doings: DirectoryDoings;
}

type Tab = 'venue' | 'artist' | 'organiser' | 'wording';
/** What is open in place of an entry: the house’s own. */
const theHouse = ' house';
const thePictures = ' pictures';
const tabNames: Record<Tab, string> = {
  venue: 'Venues',
  artist: 'Artists',
  organiser: 'Organisers',
  wording: 'Wordings',
};
const shownAtOnce = 400;

/** The directory: everything that events pick from, one entry open at a time. */
export function DirectoryScreen(props: DirectoryScreenProps) {
  const chosen = useChosen(props);
  const writes = useMay('write');
  const { ready, open, tab, doings, setOpen, venues, wording, venue, channels, person, artists, organisers } = chosen;
  return (
    <div className={classes.page}>
      <Side chosen={chosen} />
      <Still ready={ready}>
        <div className={classes.body}>
          <Fields open={writes}>
            {open === theHouse ? (
              <HouseForm
                own={props.own}
                zone={props.zone}
                venues={venues}
                organisers={organisers}
                doings={doings}
                backup={props.backup}
              />
            ) : null}
            {open === thePictures ? <PictureShelf pictures={props.pictures} doings={doings} /> : null}
            {open === null && writes ? (
              tab === 'venue' ? (
                <NewVenueForm
                  makeVenue={doings.makeVenue}
                  onMade={(made) => setOpen(made.id)}
                  onCancel={() => setOpen(venues[0]?.id ?? null)}
                />
              ) : (
                <NewEntry key={tab} sort={tab} doings={doings} onMade={setOpen} />
              )
            ) : null}
            {tab === 'wording' && wording ? <WordingForm key={wording.id} wording={wording} doings={doings} /> : null}
            {venue ? (
              <VenueForm key={venue.id} venue={venue} others={venues} channels={channels} doings={doings} />
            ) : null}
            {person ? (
              <PersonForm
                key={person.id}
                sort={tab === 'artist' ? 'artist' : 'organiser'}
                person={person}
                others={tab === 'artist' ? artists : organisers}
                channels={channels}
                doings={doings}
              />
            ) : null}
          </Fields>
        </div>
      </Still>
    </div>
  );
}

/** What is looked for, and what is open. */
function useChosen({ venues, artists, organisers, wordings, channels, doings }: DirectoryScreenProps) {
  const [tab, setTab] = useState<Tab>('venue');
  const [find, setFind] = useState('');
  const [open, setOpen] = useState<string | null>(venues[0]?.id ?? null);
  const all: Record<Tab, readonly { id: string; name: string; uses?: number; town?: string }[]> = {
    venue: venues,
    artist: artists,
    organiser: organisers,
    wording: wordings,
  };
  const rows = useMemo(
    () =>
      all[tab].filter((candidate) =>
        `${candidate.name} ${candidate.town ?? ''}`.toLowerCase().includes(find.toLowerCase().trim()),
      ),
    // The lists are the only thing that `all` is made of.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [venues, artists, organisers, wordings, tab, find],
  );
  const choose = (next: Tab) => {
    setTab(next);
    setFind('');
    setOpen(all[next][0]?.id ?? null);
  };
  const venue = tab === 'venue' ? venues.find((venue) => venue.id === open) : undefined;
  const person =
    tab === 'artist'
      ? artists.find((artist) => artist.id === open)
      : tab === 'organiser'
        ? organisers.find((organiser) => organiser.id === open)
        : undefined;
  const wording = wordings.find((wording) => wording.id === open);
  const ready = useReady();
  return {
    tab,
    choose,
    all,
    find,
    setFind,
    rows,
    open,
    setOpen,
    ready,
    doings,
    venues,
    wording,
    venue,
    channels,
    person,
    artists,
    organisers,
  };
}

type Chosen = ReturnType<typeof useChosen>;

/** What is in the directory, by sort and by what is looked for. */
function Side({ chosen: { ready, tab, choose, all, find, setFind, rows, open, setOpen } }: { chosen: Chosen }) {
  const writes = useMay('write');
  return (
    <div className={classes.side}>
      <h1>Directory</h1>
      <Still ready={ready}>
        <div className={classes.tabs} role="tablist" aria-label="Parts of the directory">
          {(Object.keys(tabNames) as Tab[]).map((text) => (
            <button key={text} type="button" role="tab" aria-selected={tab === text} onClick={() => choose(text)}>
              {tabNames[text]} <span>{all[text].length}</span>
            </button>
          ))}
        </div>
        <TextInput
          className={classes.find}
          aria-label={`Find in ${tabNames[tab].toLowerCase()}`}
          placeholder="Find by name or town"
          value={find}
          onChange={(e) => setFind(e.currentTarget.value)}
        />
        <ul className={classes.list}>
          {rows.slice(0, shownAtOnce).map((row) => (
            <li key={row.id}>
              <button type="button" aria-current={row.id === open} onClick={() => setOpen(row.id)}>
                <b>{row.name}</b> {row.town}
                <small>
                  {row.uses === undefined
                    ? ''
                    : row.uses === 0
                      ? 'not used'
                      : `${row.uses} ${row.uses === 1 ? 'event' : 'events'}`}
                </small>
              </button>
            </li>
          ))}
          {rows.length > shownAtOnce ? (
            <li className={classes.muted}>and {rows.length - shownAtOnce} more: type to narrow the list</li>
          ) : null}
          {rows.length === 0 ? (
            <li className={classes.muted}>
              {find === ''
                ? `No ${tabNames[tab].toLowerCase()} yet: they are put here while records are made.`
                : `Nothing here fits “${find}”.`}
            </li>
          ) : null}
        </ul>
        <button type="button" className={`plainButton ${classes.add}`} onClick={() => setOpen(thePictures)}>
          Pictures
        </button>
        <button type="button" className={`plainButton ${classes.add}`} onClick={() => setOpen(theHouse)}>
          The house’s own
        </button>
        {writes ? (
          <button type="button" className={`plainButton ${classes.add}`} onClick={() => setOpen(null)}>
            Add {tab === 'venue' ? 'a venue' : tab === 'wording' ? 'a wording' : `an ${tab}`}
          </button>
        ) : null}
      </Still>
    </div>
  );
}
