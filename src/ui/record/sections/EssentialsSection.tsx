import { noFormAnswer } from '@/ui/no-answer';
import { Checkbox, SegmentedControl, Select, TagsInput, TextInput } from '@mantine/core';
import { memo, useDeferredValue, useMemo, useState } from 'react';
import type { Organiser } from '@/core/record/directory';
import type { RecordDraft, TicketsDraft } from '@/core/record/draft';
import { countGraphemes } from '@/core/base/graphemes';
import {
  eventTypes,
  precisions,
  recordLimits,
  typedStages,
  type EventType,
  type Precision,
} from '@/core/record/choices';
import { ticketModes } from '@/core/record/choices';
import { bareHashtag, hashtagProposals } from '@/core/words/hashtags';
import { precisionWords } from '../dates/precision-words';
import { modeNames } from '../tickets/mode-names';
import { More, Section, type FieldError } from '../form-parts';
import classes from '../RecordForm.module.css';
import type { DraftState } from '../use-record-draft';
import type { SavePerson } from '../save-person';

/** What of a record this section is about, beside what it is called. */
export const essentialParts = [
  'eventType',
  'stage',
  'organiserId',
  'tourId',
  'tags',
  'hashtags',
  'radius',
  'online',
  'video',
] as const;

interface EssentialsSectionProps {
  draft: Pick<RecordDraft, 'title' | 'shortTitle' | 'subtitle'>;
  rest: Pick<RecordDraft, (typeof essentialParts)[number]>;
  onChange: DraftState['change'];
  error: FieldError;
  /** How one gets in. */
  mode: TicketsDraft['mode'];
  /** How much is known of the one date; `null`: there are more, or none. */
  precision: Precision | null;
  organisers: ReadonlyMap<string, Organiser>;
  addOrganiser: (organiser: Organiser) => void;
  savePerson: SavePerson;
  tours: { id: string; name: string }[];
}

/** From this length on, some channels cannot show the whole title. */
const longTitle = 58;

/** What it is called, what it is, and who puts it on. */
export function EssentialsSection(props: EssentialsSectionProps) {
  const { draft, rest, onChange, error } = props;
  const wantsShort = countGraphemes(draft.title) > longTitle || draft.shortTitle !== '';
  const tourName = props.tours.find((tour) => tour.id === rest.tourId)?.name ?? '';
  const title = useDeferredValue(draft.title);
  const proposals = useMemo(
    () => hashtagProposals(title, tourName).map((proposal) => `#${proposal}`),
    [title, tourName],
  );
  return (
    <Section id="essentials" title="Essentials">
      <div className={classes.grid}>
        <TextInput
          className={classes.w6}
          label="Title"
          value={draft.title}
          error={error('title')}
          onChange={(e) => onChange({ title: e.currentTarget.value })}
        />
        {wantsShort ? (
          <TextInput
            className={classes.w6}
            label="Shorter title, where the whole one does not fit"
            value={draft.shortTitle}
            error={error('shortTitle')}
            onChange={(e) => onChange({ shortTitle: e.currentTarget.value })}
          />
        ) : null}
        <TextInput
          className={classes.w4}
          label="Subtitle"
          value={draft.subtitle}
          error={error('subtitle')}
          onChange={(e) => onChange({ subtitle: e.currentTarget.value })}
        />
        <EventTypeField value={rest.eventType} onChange={onChange} />
      </div>
      <Rest
        draft={rest}
        proposals={proposals}
        onChange={onChange}
        error={error}
        mode={props.mode}
        precision={props.precision}
        organisers={props.organisers}
        addOrganiser={props.addOrganiser}
        savePerson={props.savePerson}
        tours={props.tours}
      />
    </Section>
  );
}

/** What kind of event it is. */
const EventTypeField = memo(function EventTypeField({
  value,
  onChange,
}: {
  value: EventType;
  onChange: DraftState['change'];
}) {
  return (
    <Select
      className={classes.w2}
      label="Kind of event"
      data={[...eventTypes]}
      value={value}
      allowDeselect={false}
      onChange={(next) => {
        const chosen = eventTypes.find((type) => type === next);
        if (chosen) onChange({ eventType: chosen });
      }}
    />
  );
});

interface RestProps extends Omit<EssentialsSectionProps, 'draft' | 'rest'> {
  draft: EssentialsSectionProps['rest'];
  /** Hashtags to pick from. */
  proposals: readonly string[];
}

/** How one gets in, how far it is, and what most events do not need. */
const Rest = memo(function Rest(props: RestProps) {
  const rest = useRestState(props);
  const { onChange, draft, precision } = rest;
  return (
    <>
      <div className={classes.inline}>
        <SegmentedControl
          aria-label="How one gets in"
          value={props.mode}
          onChange={(mode) => onChange((at) => ({ tickets: { ...at.tickets, mode: mode as TicketsDraft['mode'] } }))}
          data={ticketModes.map((mode) => ({ value: mode, label: modeNames[mode] }))}
        />
      </div>
      <div className={classes.inline}>
        <SegmentedControl
          aria-label="Stage"
          data={[...typedStages]}
          value={draft.stage}
          onChange={(stage) => onChange({ stage: stage as typeof draft.stage })}
        />
        {precision !== null ? (
          <Select
            w={190}
            aria-label="How much of the date is known"
            data={precisions.map((value) => ({ value, label: `date: ${precisionWords[value]}` }))}
            value={precision}
            allowDeselect={false}
            onChange={(value) => {
              const chosen = precisions.find((precision) => precision === value);
              if (chosen)
                onChange((at) => ({
                  performances: at.performances.map((performance) => ({ ...performance, precision: chosen })),
                }));
            }}
          />
        ) : null}
        <span>
          {draft.stage === 'pencilled' ? 'held, and kept in the house' : 'on sale and played follow by themselves'}
        </span>
      </div>
      <MoreEssentials rest={rest} />
    </>
  );
});

/** What else is said of the event. */
function useRestState(props: RestProps) {
  const { draft, proposals, onChange, error, precision } = props;
  const filled =
    draft.organiserId !== null ||
    draft.tourId !== null ||
    draft.tags.length > 0 ||
    draft.hashtags.length > 0 ||
    draft.radius !== null ||
    draft.online !== null ||
    draft.video !== '';
  return { filled, props, draft, onChange, proposals, error, precision };
}

type RestState = ReturnType<typeof useRestState>;

/** What is seldom said. */
function MoreEssentials({ rest: { filled, props, draft, onChange, proposals, error } }: { rest: RestState }) {
  return (
    <More label="organiser, tour, tags, radius clause, online room, film" open={filled}>
      <OrganiserField {...props} />
      <div className={classes.grid}>
        <Select
          className={classes.w3}
          label="Tour"
          data={props.tours.map((tour) => ({ value: tour.id, label: tour.name }))}
          value={draft.tourId}
          clearable
          clearSectionMode="clear"
          placeholder="none"
          onChange={(tourId) => onChange({ tourId })}
        />
        <TagsInput
          className={classes.w6}
          label="Hashtags"
          value={draft.hashtags.map((hashtag) => `#${hashtag}`)}
          data={[...proposals]}
          onChange={(all) => onChange({ hashtags: all.map(bareHashtag).filter((candidate) => candidate !== '') })}
          maxTags={recordLimits.hashtags}
          clearable
          error={error.paths.some((path) => path.startsWith('hashtags')) ? 'At most 60 characters each.' : undefined}
        />
        <TagsInput
          className={classes.w6}
          label="Tags"
          value={draft.tags}
          onChange={(tags) => onChange({ tags })}
          maxTags={20}
          clearable
          error={error('tags')}
        />
        <TextInput
          className={classes.w3}
          label="Film, its address"
          value={draft.video}
          placeholder="https://"
          error={error('video')}
          onChange={(e) => onChange({ video: e.currentTarget.value })}
        />
      </div>
      <OnlineFields {...props} />
      <RadiusFields {...props} />
    </More>
  );
}

/**
 * The two addresses of an online event: the public one where one keeps a place, and the one where one joins, which is
 * never public.
 */
function OnlineFields({ draft, onChange, error }: RestProps) {
  const { online } = draft;
  return (
    <>
      <div className={classes.inline}>
        <Checkbox
          label="it takes place online, too or instead"
          checked={online !== null}
          onChange={(e) => onChange({ online: e.currentTarget.checked ? { keep: '', join: '' } : null })}
        />
      </div>
      {online === null ? null : (
        <div className={classes.grid}>
          <TextInput
            className={classes.w3}
            label="Where one keeps a place (public)"
            value={online.keep}
            placeholder="https://"
            error={error('online.keep')}
            onChange={(e) => onChange({ online: { ...online, keep: e.currentTarget.value } })}
          />
          <TextInput
            className={classes.w3}
            label="Where one joins (never public)"
            value={online.join}
            placeholder="https://"
            error={error('online.join')}
            onChange={(e) => onChange({ online: { ...online, join: e.currentTarget.value } })}
          />
        </div>
      )}
    </>
  );
}

function OrganiserField({ draft, onChange, organisers, addOrganiser, savePerson }: RestProps) {
  const [typed, setTyped] = useState('');
  const [problem, setProblem] = useState('');
  const data = useMemo(
    () => [...organisers.values()].map((organiser) => ({ value: organiser.id, label: organiser.name })),
    [organisers],
  );
  const unknown =
    typed.trim() !== '' && !data.some((candidate) => candidate.label.toLowerCase() === typed.trim().toLowerCase());
  const make = async () => {
    const saved = await savePerson('organiser', { name: typed.trim() }).catch(noFormAnswer);
    if (!saved.ok) return setProblem(Object.values(saved.error)[0] ?? '');
    addOrganiser(saved.value as Organiser);
    onChange({ organiserId: saved.value.id });
    setTyped('');
  };
  return (
    <div className={classes.inline}>
      <Select
        style={{ flex: 1 }}
        label="Organiser"
        data={data}
        value={draft.organiserId}
        searchable
        clearable
        clearSectionMode="clear"
        placeholder="none"
        searchValue={typed}
        onSearchChange={setTyped}
        nothingFoundMessage="Not in the directory"
        onChange={(organiserId) => onChange({ organiserId })}
        error={problem}
      />
      {unknown ? (
        <button type="button" className="quietButton" onClick={() => void make()}>
          Put “{typed.trim()}” in the directory
        </button>
      ) : null}
    </div>
  );
}

function RadiusFields({ draft, onChange, error }: RestProps) {
  if (draft.radius === null)
    return (
      <div className={classes.inline}>
        <button type="button" className="plainButton" onClick={() => onChange({ radius: { km: '100', days: '60' } })}>
          Add a radius clause
        </button>
      </div>
    );
  const { km, days } = draft.radius;
  return (
    <div className={classes.inline}>
      <span>The headliner plays nowhere within</span>
      <TextInput
        w={64}
        aria-label="Radius in km"
        value={km}
        error={error('radius.km')}
        onChange={(e) => onChange({ radius: { km: e.currentTarget.value, days } })}
      />
      <span>km and</span>
      <TextInput
        w={64}
        aria-label="Radius in days"
        value={days}
        error={error('radius.days')}
        onChange={(e) => onChange({ radius: { km, days: e.currentTarget.value } })}
      />
      <span>days, before and after.</span>
      <button type="button" className="plainButton" onClick={() => onChange({ radius: null })}>
        Take it out
      </button>
    </div>
  );
}
