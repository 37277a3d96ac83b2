import { Select, TextInput } from '@mantine/core';
import { useEffect, useId, useLayoutEffect, useRef, useState } from 'react';
import { sameData } from '@/core/base/same-data';
import { shortDate } from '@/core/dates/date-words';
import type { RecordDraft } from '@/core/record/draft';
import { freshPartId } from '../form-parts';
import type { Venue } from '@/core/record/directory';
import { DateField, useUnread } from '@/ui/date-field';
import { LeftNote, useTyped } from '@/ui/typed';
import { isPost } from '@/core/listing/channel-rules';
import { placesOf } from '@/core/record/places';
import { doings, lacks, nothingChosen, turnable, type Doing, type TurnChosen } from '@/core/record/turned';
import { nothingSaid, withTurn, type TurnSaid } from '@/core/record/turn-said';
import { useChannels } from '@/ui/use-channels';
import classes from '../RecordForm.module.css';
import { LineUpFields, SaidFields } from './TurnFields';

interface TurnsProps {
  recordId: string;
  draft: RecordDraft;
  venues: ReadonlyMap<string, Venue>;
  today: string;
  onChange: (part: (draft: RecordDraft) => Partial<RecordDraft>) => void;
  /** Shows what that does, once it is in the record. `why`: what is said of it to the public. */
  onLook: (why: string) => void;
}

/** What befalls an event that stands outside, in plain sight: what is chosen is part of the record, and goes by *Save*. */
export function Turns(props: TurnsProps) {
  const [doing, setDoing] = useState<Doing | null>(null);
  const [said, setSaid] = useState('');
  const looks = useRef<string | null>(null);
  const { onLook, draft, today } = props;
  // Once it stands in the record, and holds up no save any more.
  useEffect(() => {
    if (looks.current === null || doing !== null) return;
    const why = looks.current;
    looks.current = null;
    onLook(why);
  }, [doing, onLook]);
  const canBeBack = turnable(draft.performances, 'back', today).length > 0;
  return (
    <div className={classes.turns}>
      <p className={classes.inline}>
        {(Object.keys(doings) as Doing[]).map((name) =>
          name === 'back' && !canBeBack ? null : (
            <button
              key={name}
              type="button"
              className="plainButton"
              aria-expanded={doing === name}
              onClick={() => {
                setSaid('');
                setDoing(doing === name ? null : name);
              }}
            >
              {doings[name]}
            </button>
          ),
        )}
        <span role="status">{said}</span>
      </p>
      {doing === null ? null : (
        <Turn
          key={doing}
          doing={doing}
          {...props}
          onDone={(words, why) => {
            setSaid(words);
            looks.current = why;
            setDoing(null);
          }}
        />
      )}
    </div>
  );
}

/** One of them: for which dates, what must be known of it, and what is said of it. */
function Turn({
  doing,
  recordId,
  draft,
  venues,
  today,
  onChange,
  onDone,
}: Omit<TurnsProps, 'onLook'> & { doing: Doing; onDone: (words: string, why: string | null) => void }) {
  const ahead = turnable(draft.performances, doing, today);
  const { accounts, account, setAccount } = useCarrier();
  const blank = { ...nothingChosen(whichFirst(doing, ahead)), ...nothingSaid(doing) };
  const kept = useTyped<TurnChosen & TurnSaid>(`${doing}-${recordId}`, blank);
  const { typed } = kept;
  const set = (part: Partial<TurnChosen & TurnSaid>) => kept.setTyped((now) => ({ ...now, ...part }));
  const id = useId();
  useHeld(doing, ahead.length > 0 && !sameData({ ...typed, which: '' }, { ...blank, which: '' }), () => {
    kept.forget();
    onDone('', null);
  });
  if (ahead.length === 0) return <p className={classes.muted}>No date is left for that.</p>;
  const chosen = ahead.filter((item) => typed.which === 'all' || item.id === typed.which);
  const ids = new Set(chosen.map((item) => item.id));
  const put = () => {
    const fresh = freshPartId();
    const post = account === null ? null : { channel: account, id: freshPartId() };
    onChange((now) => withTurn(doing, typed, typed, { draft: now, ids, venues }, { post, fresh }));
    kept.forget();
    const what = chosen.length === 1 && chosen[0] ? shortDate(chosen[0].date) : `${chosen.length} dates`;
    onDone(`${what}: in the record as typed. Look at the proof, then save.`, typed.why);
  };
  return (
    <div className={classes.turn} role="group" aria-labelledby={id}>
      <LeftNote form={kept} name="It" />
      <p id={id}>
        <b>{doings[doing]}</b> {aboutDoing[doing]}
      </p>
      {ahead.length === 1 || doing === 'extra' ? null : (
        <Select
          label="Which dates"
          data={datesOf(ahead, doing === 'postpone' && typed.date !== null)}
          value={typed.which}
          allowDeselect={false}
          onChange={(value) => set({ which: value ?? 'all' })}
        />
      )}
      {doing === 'postpone' || doing === 'extra' ? (
        <NewDay
          one={chosen.length === 1}
          extra={doing === 'extra'}
          date={typed.date}
          start={typed.start}
          usual={chosen[0]?.start ?? ''}
          onDate={(date) => set({ date })}
          onStart={(start) => set({ start })}
        />
      ) : null}
      {doing === 'move' ? <ToPlace venues={venues} value={typed.place} onChange={(place) => set({ place })} /> : null}
      {doing === 'lineUp' ? <LineUpFields typed={typed} lineUp={draft.lineUp} onChange={set} /> : null}
      <SaidFields
        doing={doing}
        typed={typed}
        ground={{ draft, ids, venues }}
        accounts={accounts}
        account={account}
        onAccount={setAccount}
        onChange={set}
      />
      <button type="button" className="quietButton" disabled={lacks(doing, typed, venues)} onClick={put}>
        {doings[doing]}
        {doing === 'extra'
          ? ''
          : ` ${chosen.length === 1 && chosen[0] ? shortDate(chosen[0].date) : `${chosen.length} dates`}`}
        {': see what it does'}
      </button>
    </div>
  );
}

/** On which account it is said: a post as a rule, or a letter. */
function useCarrier() {
  const carriers = useChannels().all.filter(({ row, rules }) => row.connected && rules.notice !== null);
  const usual = carriers.find(({ rules }) => isPost(rules)) ?? carriers[0];
  const [chosen, setAccount] = useState<string | null>(null);
  const accounts = carriers.map(({ row, rules }) => ({
    value: rules.id as string,
    label: `${row.name} (${isPost(rules) ? 'post' : 'letter'})`,
  }));
  const account = accounts.find(({ value }) => value === chosen)?.value ?? usual?.rules.id ?? null;
  return { accounts, account, setAccount };
}

/** The performances that can be chosen; `one`: of all of them at once it cannot be said. */
function datesOf(ahead: readonly { id: string; date: string; start: string }[], one: boolean) {
  return [
    ...(one ? [] : [{ value: 'all', label: `all ${ahead.length} to come` }]),
    ...ahead.slice(0, 200).map((item) => ({ value: item.id, label: `${shortDate(item.date)} ${item.start}` })),
  ];
}

/** For which performance, as long as nobody has chosen: one alone where there is but one, or it is of one by nature. */
function whichFirst(doing: Doing, ahead: readonly { id: string }[]): string {
  return ahead.length === 1 || doing === 'move' || doing === 'extra' ? (ahead[0]?.id ?? '') : 'all';
}

/** What each of them comes to, in a sentence. */
const aboutDoing: Record<Doing, string> = {
  postpone: 'Without a new date it is said to follow.',
  move: 'To another room, or another venue.',
  cancel: 'It stays where it stands, and says that it does not take place.',
  soldOut: 'It says so wherever it stands; what is still sold elsewhere is to be closed there.',
  extra: 'One performance more, like the one there is, on sale at its own moment.',
  lineUp: 'Who cannot be there, and who plays in their place.',
  back: 'It is as it was, when and where it was to be, wherever that can still be said: what was cancelled for good somewhere stays so there. The post that was drafted of it is taken out.',
};

/** What is chosen and not put in yet holds the save: it would be lost behind a word that all is saved. */
function useHeld(doing: Doing, held: boolean, drop: () => void) {
  const [tell] = useUnread(useId(), false);
  // Before anything else is heard: a save by key may follow within the same moment.
  useLayoutEffect(() => {
    const name = doings[doing];
    const problem = `${name}: what is chosen there is not in the record yet. Press the button under it, or ${name} above to leave it.`;
    tell(held ? { text: '', problem, drop } : null);
  });
}

/** Where it moves to: a room, or a venue that has none. */
function ToPlace({
  venues,
  value,
  onChange,
}: {
  venues: TurnsProps['venues'];
  value: string | null;
  onChange: (place: string | null) => void;
}) {
  return (
    <Select
      label="To which room or venue"
      data={placesOf(venues)}
      value={value}
      searchable
      limit={60}
      nothingFoundMessage="Not in the directory: make it under Dates and place."
      onChange={onChange}
    />
  );
}

interface NewDayProps {
  /** One date alone is put off: it may get a new one. */
  one: boolean;
  /** It is a date more. */
  extra: boolean;
  date: string | null;
  start: string;
  /** The start as it is. */
  usual: string;
  onDate: (date: string | null) => void;
  onStart: (start: string) => void;
}

/** To when, where that is known. */
function NewDay({ one, extra, date, start, usual, onDate, onStart }: NewDayProps) {
  if (!one) return null;
  return (
    <>
      <DateField
        label={extra ? 'On' : 'New date, where it is known'}
        placeholder={extra ? '' : 'to follow'}
        value={date}
        onDate={onDate}
        onClear={() => onDate(null)}
      />
      {date === null ? null : (
        <TextInput label="Start" placeholder={usual} value={start} onChange={(e) => onStart(e.currentTarget.value)} />
      )}
    </>
  );
}
