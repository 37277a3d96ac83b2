import { noFormAnswer } from '@/ui/no-answer';
import { Autocomplete, TextInput } from '@mantine/core';
import dynamic from 'next/dynamic';
import { memo, useCallback, useEffect, useMemo, useRef, useState, type ComponentType } from 'react';
import type { Artist } from '@/core/record/directory';
import { channelWords } from '@/core/dates/date-words';
import type { RecordDraft } from '@/core/record/draft';
import { usualRole } from '@/core/record/roles';
import { freshPartId, More, Section, type FieldError } from '../form-parts';
import type { DragProps, LinesProps } from './DraggedLines';
import { useMay } from '@/ui/may/May';
import { notFetched } from '@/ui/not-fetched';
import { useWantedBy } from '@/ui/use-channels';
import classes from '../RecordForm.module.css';
import type { SavePerson } from '../save-person';

type LineUp = RecordDraft['lineUp'];
type Entry = LineUp[number];

interface LineUpSectionProps {
  lineUp: LineUp;
  onChange: (lineUp: LineUp) => void;
  error: FieldError;
  artists: readonly Artist[];
  addArtist: (artist: Artist) => void;
  savePerson: SavePerson;
  /** The house's roles; one that is typed is the house's from the next save on. */
  roles: readonly string[];
  kind: string;
  programme: RecordDraft['programme'];
  performances: RecordDraft['performances'];
  onProgramme: (programme: RecordDraft['programme']) => void;
}

const Programme = dynamic(() => import('./Programme').then(({ Programme }) => Programme, notFetched));

/** How long after the screen stands what moves the names is fetched, in ms. */
const restMs = 1_500;

/** Who is on, in billing order: by dragging the handle, or by keyboard (Space, arrows, Space). */
export const LineUpSection = memo(function LineUpSection(props: LineUpSectionProps) {
  const { lineUp, onChange } = props;
  const programmeOn = useWantedBy('programme');
  const { ground, Lines, fetch } = useLines();
  const names = useMemo(() => props.artists.map((artist) => artist.name), [props.artists]);
  return (
    <Section id="line-up" title="Line-up">
      <div ref={ground}>
        <Lines
          lineUp={lineUp}
          onChange={onChange}
          line={(entry, index, drag) => (
            <Line key={entry.id} {...props} entry={entry} index={index} names={names} drag={drag} fetch={fetch} />
          )}
        />
      </div>
      <div className={classes.inline}>
        <button
          type="button"
          className="plainButton"
          onClick={() =>
            onChange([
              ...lineUp,
              {
                id: freshPartId(),
                name: '',
                role: usualRole(props.kind, lineUp),
                artistId: null,
                setTime: '',
              },
            ])
          }
        >
          Add a name
        </button>
        {lineUp.length > 1 ? <span>Drag the handle to bill higher or lower, or focus it and press Space.</span> : null}
      </div>
      <More label="programme: parts with times of their own" wantedBy={programmeOn} open={props.programme.length > 0}>
        <Programme
          programme={props.programme}
          performances={props.performances}
          onChange={props.onProgramme}
          error={props.error}
          roles={props.roles}
        />
      </More>
    </Section>
  );
});

/** Names that stay where they are: so until what moves them is there. */
function StillLines({ lineUp, line }: LinesProps) {
  return <>{lineUp.map((entry, index) => line(entry, index, null))}</>;
}

/**
 * What draws the names. What moves them comes once the screen is at rest, and takes over while nobody writes in one of
 * them; a handle that is reached before fetches it at once, and keeps the focus and the key that was pressed on it.
 */
function useLines() {
  const ground = useRef<HTMLDivElement>(null);
  const [Lines, setLines] = useState<ComponentType<LinesProps>>(() => StillLines);
  const [reached, setReached] = useState<string | null>(null);
  const pressed = useRef<string | null>(null);
  const fetch = useCallback((key?: string) => {
    if (key !== undefined) pressed.current = key;
    void import('./DraggedLines').then(
      ({ DraggedLines }) => {
        const active = ground.current?.contains(document.activeElement) ? document.activeElement : null;
        const handle = active?.getAttribute('data-handle') ?? null;
        if (active !== null && handle === null) return;
        setReached(handle);
        setLines(() => DraggedLines);
      },
      // The names can be written all the same; the next handle that is reached tries again.
      () => undefined,
    );
  }, []);
  useEffect(() => {
    const timer = setTimeout(fetch, restMs);
    return () => clearTimeout(timer);
  }, [fetch]);
  useEffect(() => {
    const handle = reached === null ? null : ground.current?.querySelector<HTMLElement>(`[data-handle="${reached}"]`);
    handle?.focus();
    if (handle && pressed.current !== null)
      handle.dispatchEvent(new KeyboardEvent('keydown', { code: pressed.current, bubbles: true, cancelable: true }));
    pressed.current = null;
  }, [reached]);
  return { ground, Lines, fetch: Lines === StillLines ? fetch : null };
}

interface LineProps extends LineUpSectionProps {
  entry: Entry;
  index: number;
  names: string[];
  /** `null`: what moves it is not there yet. */
  drag: DragProps | null;
  /** Fetches what moves it; `null`: it is there. */
  fetch: ((key?: string) => void) | null;
}

function Line(props: LineProps) {
  const moved = useLineState(props);
  const { drag, artist } = moved;
  return (
    <div ref={drag?.place} style={drag?.style}>
      <LineFields moved={moved} />
      <Unknown moved={moved} />
      {artist && artist.profiles.length > 0 ? (
        <p className={`${classes.underLine} ${classes.indent}`}>
          {artist.profiles
            .map(
              (profile) =>
                `${channelWords(profile.channel)}: ${profile.verified === null ? 'profile not checked' : profile.verified.ok ? 'profile verified' : `profile is ${profile.verified.name || 'nobody’s'}`}`,
            )
            .join(' · ')}
        </p>
      ) : null}
    </div>
  );
}

/** How one name of the line-up is moved and known. */
function useLineState({
  entry,
  index,
  lineUp,
  onChange,
  error,
  artists,
  addArtist,
  savePerson,
  roles,
  names,
  drag,
  fetch,
}: LineProps) {
  const set = (part: Partial<Entry>) =>
    onChange(lineUp.map((act) => (act.id === entry.id ? { ...act, ...part } : act)));
  const artist = artists.find((artist) => artist.id === entry.artistId);
  const writes = useMay('write');
  const unknown = writes && entry.name.trim() !== '' && artist === undefined && !names.includes(entry.name.trim());
  const [problem, setProblem] = useState('');
  const make = async () => {
    const saved = await savePerson('artist', { name: entry.name.trim() }).catch(noFormAnswer);
    setProblem(saved.ok ? '' : (Object.values(saved.error)[0] ?? ''));
    if (!saved.ok) return;
    addArtist(saved.value as Artist);
    set({ artistId: saved.value.id });
  };
  return {
    unknown,
    make,
    entry,
    problem,
    drag,
    fetch,
    names,
    error,
    index,
    set,
    artists,
    artist,
    roles,
    onChange,
    lineUp,
  };
}

type LineState = ReturnType<typeof useLineState>;

/** The name, its role and its time. */
function LineFields({
  moved: { entry, drag, fetch, names, error, index, set, artists, roles, onChange, lineUp },
}: {
  moved: LineState;
}) {
  return (
    <div className={classes.line}>
      <button
        type="button"
        className={classes.handle}
        aria-label={`Move ${entry.name || 'this name'} in the billing`}
        data-handle={entry.id}
        onFocus={() => fetch?.()}
        onPointerEnter={() => fetch?.()}
        onKeyDown={(e) => (e.code === 'Space' || e.code === 'Enter') && fetch?.(e.code)}
        {...drag?.handle}
      >
        ⋮⋮
      </button>
      <Autocomplete
        label="Name"
        value={entry.name}
        data={names}
        limit={12}
        error={error(`lineUp.${index}.name`)}
        onChange={(name) => set({ name, artistId: artists.find((artist) => artist.name === name.trim())?.id ?? null })}
      />
      <Autocomplete
        label="Role"
        data={[...roles]}
        value={entry.role}
        error={error(`lineUp.${index}.role`)}
        onChange={(role) => set({ role })}
      />
      <TextInput
        label="Set time"
        value={entry.setTime}
        error={error(`lineUp.${index}.setTime`)}
        onChange={(e) => set({ setTime: e.currentTarget.value })}
      />
      <button
        type="button"
        className="plainButton"
        onClick={() => onChange(lineUp.filter((act) => act.id !== entry.id))}
      >
        Remove
      </button>
    </div>
  );
}

/** A name that the directory does not have: it can be kept there. */
function Unknown({ moved: { unknown, make, entry, problem } }: { moved: LineState }) {
  if (!unknown) return null;
  return (
    <p className={`${classes.underLine} ${classes.indent}`}>
      Not in the directory.{' '}
      <button type="button" className="plainButton" onClick={() => void make()}>
        Put {entry.name.trim()} there
      </button>
      {problem === '' ? null : (
        <span className="problem" role="alert">
          {' '}
          {problem}
        </span>
      )}
    </p>
  );
}
