import { Checkbox, MultiSelect, Select, TagsInput, TextInput } from '@mantine/core';
import { useMemo, useState } from 'react';
import { mostCategories, recordLimits } from '@/core/record/choices';
import type { Organiser } from '@/core/record/directory';
import { bareHashtag } from '@/core/words/hashtags';
import { Fields } from '@/ui/may/Fields';
import { useForHouse, useMay } from '@/ui/may/May';
import { noFormAnswer } from '@/ui/no-answer';
import classes from '../RecordForm.module.css';
import type { RestProps } from './essentials-props';

/** What is seldom said of an event: who puts it on, its tour, tags, film, online room and radius clause. */
export function SeldomSaid(props: RestProps) {
  const { draft, onChange, proposals, error } = props;
  const forHouse = useForHouse();
  return (
    <>
      <OrganiserField {...props} />
      <div className={classes.grid}>
        <Fields open={forHouse}>
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
        </Fields>
        <MultiSelect
          className={classes.w3}
          label="Further kinds that it is"
          description="For channels with several categories."
          data={[...new Set([...props.types, ...draft.categories])].filter((type) => type !== draft.eventType)}
          value={draft.categories}
          onChange={(categories) => onChange({ categories })}
          maxValues={mostCategories}
          searchable
          clearable
          error={error('categories')}
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
        <TextInput
          className={classes.w3}
          label="Sound, its address"
          value={draft.sound}
          placeholder="https://"
          error={error('sound')}
          onChange={(e) => onChange({ sound: e.currentTarget.value })}
        />
      </div>
      <OnlineFields {...props} />
      <Fields open={forHouse}>
        <RadiusFields {...props} />
      </Fields>
    </>
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
  const writes = useMay('write');
  const data = useMemo(
    () => [...organisers.values()].map((organiser) => ({ value: organiser.id, label: organiser.name })),
    [organisers],
  );
  const unknown =
    writes &&
    typed.trim() !== '' &&
    !data.some((candidate) => candidate.label.toLowerCase() === typed.trim().toLowerCase());
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
        Remove it
      </button>
    </div>
  );
}
