import dynamic from 'next/dynamic';
import { notFetched } from '@/ui/not-fetched';
import { SegmentedControl, Select, TextInput } from '@mantine/core';
import { memo, useDeferredValue, useMemo } from 'react';
import type { TicketsDraft } from '@/core/record/draft';
import { countGraphemes } from '@/core/base/graphemes';
import { precisions, typedStages, type EventType } from '@/core/record/choices';
import { ticketModes } from '@/core/record/choices';
import { hashtagProposals } from '@/core/words/hashtags';
import { precisionWords } from '../dates/precision-words';
import { modeNames } from '../tickets/mode-names';
import { More, Section } from '../form-parts';
import classes from '../RecordForm.module.css';
import type { DraftState } from '../use-record-draft';
import type { EssentialsSectionProps, RestProps } from './essentials-props';

const SeldomSaid = dynamic(() => import('./SeldomSaid').then(({ SeldomSaid }) => SeldomSaid, notFetched));

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
          className={classes.w4}
          label="Title"
          data-title
          value={draft.title}
          error={error('title')}
          onChange={(e) => onChange({ title: e.currentTarget.value })}
        />
        <EventTypeField value={rest.eventType} types={props.types} onChange={onChange} />
        {wantsShort ? (
          <TextInput
            className={classes.w6}
            label="Shorter title, where the whole one does not fit"
            value={draft.shortTitle}
            error={error('shortTitle')}
            onChange={(e) => onChange({ shortTitle: e.currentTarget.value })}
          />
        ) : null}
      </div>
      <Deciding stage={rest.stage} onChange={onChange} mode={props.mode} precision={props.precision} />
      <TextInput
        mt={14}
        label="Subtitle"
        value={draft.subtitle}
        error={error('subtitle')}
        onChange={(e) => onChange({ subtitle: e.currentTarget.value })}
      />
      <MoreEssentials
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
        types={props.types}
      />
    </Section>
  );
}

/** What kind of event it is. */
const EventTypeField = memo(function EventTypeField({
  value,
  types,
  onChange,
}: {
  value: EventType;
  types: readonly EventType[];
  onChange: DraftState['change'];
}) {
  return (
    <Select
      className={classes.w2}
      label="Kind of event"
      data={types.includes(value) ? [...types] : [value, ...types]}
      searchable
      value={value}
      allowDeselect={false}
      onChange={(next) => {
        if (next !== null) onChange({ eventType: next });
      }}
    />
  );
});

interface DecidingProps extends Pick<EssentialsSectionProps, 'onChange' | 'mode' | 'precision'> {
  stage: EssentialsSectionProps['rest']['stage'];
}

/** How one gets in, how far it is, and how much of its date is known: they decide what else is asked. */
const Deciding = memo(function Deciding({ stage, onChange, mode, precision }: DecidingProps) {
  return (
    <>
      <div className={classes.inline}>
        <SegmentedControl
          aria-label="How one gets in"
          value={mode}
          onChange={(mode) => onChange((at) => ({ tickets: { ...at.tickets, mode: mode as TicketsDraft['mode'] } }))}
          data={ticketModes.map((mode) => ({ value: mode, label: modeNames[mode] }))}
        />
      </div>
      <div className={classes.inline}>
        <SegmentedControl
          aria-label="Stage"
          data={[...typedStages]}
          value={stage}
          onChange={(stage) => onChange({ stage: stage as DecidingProps['stage'] })}
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
        <span className={classes.beside}>
          {stage === 'pencilled' ? 'held, and kept in the house' : 'on sale and played follow by themselves'}
        </span>
      </div>
    </>
  );
});

/** What is seldom said. */
const MoreEssentials = memo(function MoreEssentials(props: RestProps) {
  const { draft } = props;
  const filled =
    draft.organiserId !== null ||
    draft.tourId !== null ||
    draft.tags.length > 0 ||
    draft.hashtags.length > 0 ||
    draft.radius !== null ||
    draft.online !== null ||
    draft.video !== '' ||
    draft.sound !== '';
  return (
    <More label="organiser, tour, tags, radius clause, online room, film, sound" open={filled}>
      <SeldomSaid {...props} />
    </More>
  );
});
