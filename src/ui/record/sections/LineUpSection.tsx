import { noFormAnswer } from '@/ui/no-answer';
import { Autocomplete, TextInput } from '@mantine/core';
import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  SortableContext,
  arrayMove,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { memo, useMemo, useState } from 'react';
import type { Artist } from '@/core/record/directory';
import { channelWords } from '@/core/dates/date-words';
import type { RecordDraft } from '@/core/record/draft';
import { usualRole } from '@/core/record/roles';
import { freshPartId, More, Section, type FieldError } from '../form-parts';
import { Programme } from './Programme';
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

/** Who is on, in billing order: by dragging the handle, or by keyboard (Space, arrows, Space). */
export const LineUpSection = memo(function LineUpSection(props: LineUpSectionProps) {
  const { lineUp, onChange } = props;
  const programmeOn = useWantedBy('programme');
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    const [from, to] = [
      lineUp.findIndex((act) => act.id === active.id),
      lineUp.findIndex((act) => act.id === over?.id),
    ];
    if (from >= 0 && to >= 0 && from !== to) onChange(arrayMove(lineUp, from, to));
  };
  const names = useMemo(() => props.artists.map((artist) => artist.name), [props.artists]);
  return (
    <Section id="line-up" title="Line-up">
      <DndContext id="billing" sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
        <SortableContext items={lineUp.map((act) => act.id)} strategy={verticalListSortingStrategy}>
          {lineUp.map((act, i) => (
            <Line key={act.id} {...props} entry={act} index={i} names={names} />
          ))}
        </SortableContext>
      </DndContext>
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

function Line(props: LineUpSectionProps & { entry: Entry; index: number; names: string[] }) {
  const moved = useLineState(props);
  const { setNodeRef, transform, transition, artist } = moved;
  return (
    <div ref={setNodeRef} style={{ transform: CSS.Translate.toString(transform), transition }}>
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
}: LineUpSectionProps & { entry: Entry; index: number; names: string[] }) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id: entry.id });
  const set = (part: Partial<Entry>) =>
    onChange(lineUp.map((act) => (act.id === entry.id ? { ...act, ...part } : act)));
  const artist = artists.find((artist) => artist.id === entry.artistId);
  const unknown = entry.name.trim() !== '' && artist === undefined && !names.includes(entry.name.trim());
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
    attributes,
    listeners,
    names,
    error,
    index,
    set,
    artists,
    artist,
    roles,
    onChange,
    lineUp,
    setNodeRef,
    transform,
    transition,
  };
}

type LineState = ReturnType<typeof useLineState>;

/** The name, its role and its time. */
function LineFields({
  moved: { entry, attributes, listeners, names, error, index, set, artists, roles, onChange, lineUp },
}: {
  moved: LineState;
}) {
  return (
    <div className={classes.line}>
      <button
        type="button"
        className={classes.handle}
        aria-label={`Move ${entry.name || 'this name'} in the billing`}
        {...attributes}
        {...listeners}
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
        Take out
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
