import { useEffect, useState } from 'react';
import classes from './TownFinder.module.css';

/** A town that was found, with its zone and coordinates. */
interface FoundTown {
  label: string;
  zone: string;
  point: { lat: number; lon: number };
}

/** What is known of a town: the zone is there where all that it may be lie in one. */
interface Found {
  choices: FoundTown[];
  zone: string | null;
  by: 'venue' | 'town' | 'country' | null;
}

async function find(town: string, country: string): Promise<Found> {
  const answer = await fetch(`/api/towns?${new URLSearchParams({ town, country }).toString()}`);
  if (!answer.ok) throw new Error(`asked for a town: ${answer.status}`);
  return (await answer.json()) as Found;
}

interface TownFinderProps {
  town: string;
  country: string;
  /** Takes the zone, and the coordinates where the town is known for certain. */
  onFound: (zone: string, point: FoundTown['point'] | null) => void;
}

type Told =
  { key: string; state: 'asking' } | { key: string; state: 'away' } | ({ key: string; state: 'told' } & Found);

const pauseMs = 500;

/**
 * Zone and coordinates follow from a town and its country; of several towns of a name one is asked, and none is told.
 */
export function TownFinder({ town, country, onFound }: TownFinderProps) {
  const key = `${town.trim()}|${country.trim()}`;
  const [first] = useState(key);
  const [told, setTold] = useState<Told | null>(null);
  useEffect(() => {
    // What was there when the form opened is not looked up: it was decided before.
    if (town.trim() === '' || key === first) return;
    let gone = false;
    const timer = setTimeout(() => {
      setTold({ key, state: 'asking' });
      find(town.trim(), country.trim()).then(
        (answer) => {
          if (gone) return;
          setTold({ key, state: 'told', ...answer });
          const [only, more] = answer.choices;
          if (answer.zone !== null) onFound(answer.zone, only && !more ? only.point : null);
        },
        () => !gone && setTold({ key, state: 'away' }),
      );
    }, pauseMs);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
    // It is looked up when the town changes, whoever takes the answer then.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  if (told === null || told.key !== key || town.trim() === '') return null;
  const place = [town.trim(), country.trim()].filter((part) => part !== '').join(', ');
  if (told.state === 'asking')
    return (
      <p className={classes.line} role="status">
        Looking for {place} …
      </p>
    );
  if (told.state === 'away')
    return (
      <p className={classes.line} role="status">
        {place} could not be looked up. Pick the zone yourself.
      </p>
    );
  const [only, more] = told.choices;
  if (told.by === 'venue')
    return (
      <p className={classes.line} role="status">
        {told.zone}, as your other venues in {town.trim()}.
      </p>
    );
  if (!only)
    return (
      <p className={classes.line} role="status">
        {place} is not among the towns that are known
        {told.zone === null ? '. Pick the zone yourself.' : `; all of ${country.trim()} is in ${told.zone}.`}
      </p>
    );
  if (!more)
    return (
      <p className={classes.line} role="status">
        {only.label}
      </p>
    );
  return (
    <div className={classes.line} role="group" aria-label={`Which ${place}?`}>
      <span>Which {place}?</span>
      {told.choices.map((choice) => (
        <button
          key={choice.label}
          type="button"
          className="plainButton"
          onClick={() => {
            onFound(choice.zone, choice.point);
            setTold({ key, state: 'told', choices: [choice], zone: choice.zone, by: 'town' });
          }}
        >
          {choice.label}
        </button>
      ))}
    </div>
  );
}
