import dynamic from 'next/dynamic';
import { notFetched } from '@/ui/not-fetched';
import { Checkbox, SegmentedControl, TextInput } from '@mantine/core';
import { memo, useMemo } from 'react';
import type { Survey } from '@/channels/survey';
import type { RecordDraft } from '@/core/record/draft';
import { More, Section, type FieldError } from '../form-parts';
import { AudienceField } from './AudienceField';
import type { DraftState } from '../use-record-draft';
import type { publicityParts } from './publicity-parts';
import { useChannels, useWantedBy } from '@/ui/use-channels';
import { DateField } from '@/ui/date-field';
import classes from '../RecordForm.module.css';

const LabelledLinks = dynamic(() =>
  import('../links/LabelledLinks').then(({ LabelledLinks }) => LabelledLinks, notFetched),
);
const LinkPlan = dynamic(() => import('../links/LinkPlan').then(({ LinkPlan }) => LinkPlan, notFetched));
const PostsOffered = dynamic(() => import('./PostsOffered').then(({ PostsOffered }) => PostsOffered, notFetched));
const AfterFields = dynamic(() => import('./AfterFields').then(({ AfterFields }) => AfterFields, notFetched));

type PublicityDraft = Pick<RecordDraft, (typeof publicityParts)[number]>;

interface PublicitySectionProps {
  draft: PublicityDraft;
  onChange: DraftState['change'];
  error: FieldError;
  survey: Survey;
  /** Today, and the zone, of the house. */
  today: string;
  zone: string;
}

const visibilityWords = {
  private: 'It never leaves the house.',
  unlisted: 'Only where it is found by its link alone.',
  public: 'It may be sent once you send it.',
};

/** Who may know, from when, on which channels, and which ticket link each of them carries. */
export const PublicitySection = memo(function PublicitySection(props: PublicitySectionProps) {
  const showing = useShowing(props);
  const { visibility, onChange, announce, draft, error, used, survey, linksOn, afterOn } = showing;
  return (
    <Section id="publicity" title="Publicity">
      <div className={classes.inline}>
        <SegmentedControl
          aria-label="Visibility"
          value={visibility}
          data={['private', 'unlisted', 'public']}
          onChange={(value) => onChange({ publicity: { announce, visibility: value as typeof visibility } })}
        />
        <span>{visibilityWords[visibility]}</span>
      </div>
      <Announcing showing={showing} />
      <More
        label="for members or a group, narrower or a draft on a channel, a series as one line, who comes"
        open={
          draft.audience.who !== 'everyone' ||
          draft.unlistedOn.length > 0 ||
          draft.draftOn.length > 0 ||
          draft.oneLineOn.length > 0 ||
          draft.guests.shown ||
          draft.guests.write
        }
      >
        <AudienceField
          audience={draft.audience}
          onChange={(audience) => onChange({ audience })}
          note={draft.audience.who === 'everyone' ? '' : 'It goes nowhere but to channels that are for them.'}
          error={error('audience.name')}
        />
        <Narrower draft={draft} onChange={onChange} used={used} series={survey.facts.series} />
        <Guests draft={draft} onChange={onChange} />
      </More>
      <LinkPlan links={survey.links} used={used} draft={draft} onChange={onChange} error={error} />
      <More label="links with words of their own" wantedBy={linksOn} open={draft.links.length > 0}>
        <LabelledLinks draft={draft} onChange={onChange} error={error} />
      </More>
      <More
        label="after the show: recording, pictures of the night, set list"
        wantedBy={afterOn}
        open={hasAfter(draft)}
      >
        <AfterFields draft={draft} onChange={onChange} error={error} />
      </More>
      <PublicAt pages={survey.facts.pages} />
    </Section>
  );
});

/** Where people say that they come: whether they are seen, and may write. Asked where a channel has a place for it. */
function Guests({ draft: { guests }, onChange }: Pick<PublicitySectionProps, 'draft' | 'onChange'>) {
  const asked = useWantedBy('guests-shown');
  if (asked.length === 0 && !guests.shown && !guests.write) return null;
  return (
    <div className={classes.inline} role="group" aria-label="Who comes">
      <span>Where people say that they come{asked.length === 0 ? '' : ` (${asked.join(', ')})`}:</span>
      <Checkbox
        label="the others are seen"
        checked={guests.shown}
        onChange={(e) => onChange({ guests: { ...guests, shown: e.currentTarget.checked } })}
      />
      <Checkbox
        label="they may write to each other"
        checked={guests.write}
        onChange={(e) => onChange({ guests: { ...guests, write: e.currentTarget.checked } })}
      />
    </div>
  );
}

/** Where it stands in public already. */
function PublicAt({ pages }: Pick<Survey['facts'], 'pages'>) {
  const known = Object.entries(pages).flatMap(([id, { name, value }]) => (value === null ? [] : [{ id, name, value }]));
  if (known.length === 0) return null;
  return (
    <p className={classes.muted}>
      In public at{' '}
      {known.map(({ id, name, value }, i) => (
        <span key={id}>
          {i === 0 ? '' : ', '}
          <a href={value} target="_blank" rel="noreferrer">
            {name}
          </a>
        </span>
      ))}
      .
    </p>
  );
}

/** What is to be seen of it, and where. */
function useShowing({ draft, onChange, error, survey, today, zone }: PublicitySectionProps) {
  const channels = useChannels();
  const [linksOn, afterOn] = [useWantedBy('link-label'), useWantedBy('recording')];
  const { used, without, mirrors } = useSorted(survey, draft);
  const { visibility, announce } = draft.publicity;
  // From when, and where, is asked once it may leave the house at all.
  const quiet = visibility === 'private' && announce === null && draft.leftOff.length === 0;
  const setAnnounce = (next: typeof announce) => onChange({ publicity: { visibility, announce: next } });
  return {
    quiet,
    announce,
    onChange,
    today,
    zone,
    setAnnounce,
    error,
    channels,
    used,
    draft,
    without,
    mirrors,
    visibility,
    survey,
    linksOn,
    afterOn,
  };
}

type Showing = ReturnType<typeof useShowing>;

/** When it is announced, and where it is wanted. */
function Announcing({
  showing: { quiet, announce, onChange, today, zone, setAnnounce, error, channels, used, draft, without, mirrors },
}: {
  showing: Showing;
}) {
  if (quiet) return null;
  return (
    <>
      <div className={classes.inline}>
        <Checkbox
          label="nothing before an announce moment"
          checked={announce !== null}
          onChange={(e) => (e.currentTarget.checked ? onChange(announcedOnTheDay(today, zone)) : setAnnounce(null))}
        />
      </div>
      {announce === null ? null : (
        <div className={classes.grid}>
          <DateField
            className={classes.w3}
            label="Announce on"
            value={announce.date}
            onDate={(date) => setAnnounce({ ...announce, date })}
            error={error('publicity.announce.date')}
          />
          <TextInput
            className={classes.w1}
            label="At"
            value={announce.time}
            onChange={(e) => setAnnounce({ ...announce, time: e.currentTarget.value })}
            error={error('publicity.announce.time')}
          />
          <p className={`${classes.w2} ${classes.muted}`}>{announce.zone}</p>
        </div>
      )}
      <div className={classes.inline} role="group" aria-label="Wanted on">
        <span>Wanted on</span>
        {channels.all
          .filter(({ rules }) => used.has(rules.id) || draft.leftOff.includes(rules.id))
          .map(({ rules }) => (
            <Checkbox
              key={rules.id}
              label={rules.name}
              checked={!draft.leftOff.includes(rules.id)}
              onChange={(e) =>
                onChange({
                  leftOff: e.currentTarget.checked
                    ? draft.leftOff.filter((id) => id !== rules.id)
                    : [...draft.leftOff, rules.id],
                })
              }
            />
          ))}
      </div>
      <PostsOffered notices={draft.notices} onChange={onChange} />
      {without.length + mirrors.length > 0 ? (
        <p className={classes.muted}>
          {mirrors.map((mirror) => `${mirror.name} shows what stands on ${mirror.source}.`).join(' ')}{' '}
          {without.length > 0 ? `No use for such an event: ${without.join(', ')}.` : ''}
        </p>
      ) : null}
    </>
  );
}

/**
 * Announced on the day of the first performance, to begin with; where there is none, today: the day is then typed over.
 */
function announcedOnTheDay(today: string, zone: string) {
  return ({ publicity, performances: [first] }: RecordDraft): Partial<RecordDraft> => ({
    publicity: {
      ...publicity,
      announce: { date: first?.date ?? today, time: '10:00', zone: first?.zone ?? zone },
    },
  });
}

/**
 * Channels that list events by what they are to this one: those with a use for it, those without, and those that show
 * another's word.
 */
function useSorted({ listings }: Survey, { leftOff }: Pick<RecordDraft, 'leftOff'>) {
  const { all } = useChannels();
  return useMemo(() => {
    const idle = new Set<string>(
      listings
        .filter((listing) => listing.down === 'no use' || listing.down === 'no outlet')
        .map((listing) => listing.channel),
    );
    const listing = all.filter(({ rules }) => rules.notice === null);
    const own = listing.filter(({ rules }) => rules.mirrors === null);
    const shows = listing.filter(({ rules }) => rules.mirrors !== null && !idle.has(rules.id));
    return {
      used: new Set<string>(own.filter(({ rules }) => !idle.has(rules.id)).map(({ rules }) => rules.id)),
      without: own
        .filter(({ rules }) => idle.has(rules.id) && !leftOff.includes(rules.id))
        .map(({ rules }) => rules.name),
      mirrors: shows.map(({ rules, row }) => ({
        name: rules.name,
        source:
          all.find((channel) => channel.kind.id === rules.mirrors && channel.row.settings.act === row.settings.act)
            ?.rules.name ?? 'another',
      })),
    };
  }, [all, listings, leftOff]);
}

/** Something of what comes after the show is kept already. */
function hasAfter({ after }: PublicityDraft): boolean {
  return (after.recording.href ?? '') !== '' || after.setList.text !== '' || after.pictures.ids.length > 0;
}

/** On which channels it is found by its link alone, and on which a series is one line. */
function Narrower({
  draft,
  onChange,
  used,
  series,
}: {
  draft: PublicityDraft;
  onChange: PublicitySectionProps['onChange'];
  /** Channels that have a use for the event. */
  used: ReadonlySet<string>;
  series: string;
}) {
  const channels = useChannels().all.filter(({ rules }) => rules.notice === null);
  const toggle = (key: 'unlistedOn' | 'draftOn' | 'oneLineOn', id: string, on: boolean) =>
    onChange({ [key]: on ? [...draft[key], id] : draft[key].filter((candidate) => candidate !== id) });
  const telling = channels.filter(
    ({ rules }) => used.has(rules.id) && rules.rows.some((row) => row.field === 'series'),
  );
  return (
    <>
      <div className={classes.inline} role="group" aria-label="Found by its link alone on">
        <span>Found by its link alone on</span>
        {channels
          .filter(
            ({ rules }) =>
              (used.has(rules.id) && rules.states.includes('unlisted')) || draft.unlistedOn.includes(rules.id),
          )
          .map(({ rules }) => (
            <Checkbox
              key={rules.id}
              label={rules.name}
              checked={draft.unlistedOn.includes(rules.id)}
              onChange={(e) => toggle('unlistedOn', rules.id, e.currentTarget.checked)}
            />
          ))}
        <span>Others show what they have to everybody: leave them off instead.</span>
      </div>
      <div className={classes.inline} role="group" aria-label="Stays a draft on">
        <span>Stays a draft on</span>
        {channels
          .filter(
            ({ rules }) => (used.has(rules.id) && rules.states.includes('draft')) || draft.draftOn.includes(rules.id),
          )
          .map(({ rules }) => (
            <Checkbox
              key={rules.id}
              label={rules.name}
              checked={draft.draftOn.includes(rules.id)}
              onChange={(e) => toggle('draftOn', rules.id, e.currentTarget.checked)}
            />
          ))}
        <span>All of it is kept there, and nobody sees it yet.</span>
      </div>
      {series === '' && draft.oneLineOn.length === 0 ? (
        <p className={classes.muted}>A series of three dates and more can be told as one line; these dates are none.</p>
      ) : (
        <div className={classes.inline} role="group" aria-label="The dates as one line on">
          <span>“{series}” in place of each date on</span>
          {telling.map(({ rules }) => (
            <Checkbox
              key={rules.id}
              label={rules.name}
              checked={draft.oneLineOn.includes(rules.id)}
              onChange={(e) => toggle('oneLineOn', rules.id, e.currentTarget.checked)}
            />
          ))}
        </div>
      )}
    </>
  );
}
