'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { fail, type Result } from '@/core/base/result';
import { noAnswer } from '@/ui/no-answer';
import type { PeopleView, PersonRow } from '@/views/people';
import classes from './People.module.css';
import type { PeopleDoings } from './people-doings';
import { asked, ReachFields, type TypedReach } from './ReachFields';
import { SessionList } from './SessionList';

interface PersonLineProps extends Pick<PeopleDoings, 'changeRole' | 'takeOut' | 'endSession'> {
  person: PersonRow;
  view: PeopleView;
  zone: string;
}

/** Where a person may come in, in words. */
function whereWords({ only }: PersonRow, { tours, codes }: PeopleView): string {
  if (only === null) return 'in the whole house';
  const names = [
    ...only.tours.map((id) => tours.find((tour) => tour.id === id)?.name ?? 'a tour that is gone'),
    ...only.records.map((id) => codes[id] ?? 'an event that is gone'),
  ];
  return `for ${names.join(', ')} alone`;
}

/** One person: role and reach, sessions, and taking out, which is asked once more. */
export function PersonLine({ person, view, zone, changeRole, takeOut, endSession }: PersonLineProps) {
  const router = useRouter();
  const [open, setOpen] = useState<'role' | 'out' | 'sessions' | null>(null);
  const [said, setSaid] = useState('');
  const done = (answer: Result<null, string>, words: string) => {
    setSaid(answer.ok ? words : answer.error);
    if (!answer.ok) return;
    setOpen(null);
    router.refresh();
  };
  const flip = (which: 'role' | 'out' | 'sessions') => setOpen(open === which ? null : which);
  return (
    <section className={classes.person} aria-label={person.name}>
      <Who person={person} view={view} />
      <div className={classes.tools}>
        <button type="button" className="plainButton" onClick={() => flip('role')} aria-expanded={open === 'role'}>
          Change role
        </button>
        {person.sessions.length > 0 ? (
          <button
            type="button"
            className="plainButton"
            onClick={() => flip('sessions')}
            aria-expanded={open === 'sessions'}
          >
            Sessions
          </button>
        ) : null}
        {person.self ? null : (
          <button type="button" className="plainButton" onClick={() => flip('out')} aria-expanded={open === 'out'}>
            Take out
          </button>
        )}
      </div>
      {open === 'role' ? (
        <RoleForm
          person={person}
          view={view}
          change={(input) => changeRole(person.id, input).catch(() => fail({ role: noAnswer }))}
          done={() => done({ ok: true, value: null }, 'Changed: it holds from now on.')}
        />
      ) : null}
      {open === 'sessions' ? (
        <div className={classes.said}>
          <SessionList
            sessions={person.sessions}
            zone={zone}
            end={async (session) => {
              const answer = await endSession(person.id, session).catch(() => fail(noAnswer));
              router.refresh();
              return answer.ok ? null : answer.error;
            }}
          />
        </div>
      ) : null}
      {open === 'out' ? (
        <p className={classes.said}>
          {person.name} comes in no more, at once: sessions, password, second factor and every invitation of{' '}
          {person.name} end. What {person.name} did stays in the book.{' '}
          <button
            type="button"
            className="quietButton"
            onClick={() =>
              void takeOut(person.id)
                .catch(() => fail(noAnswer))
                .then((answer) => done(answer, ''))
            }
          >
            Take {person.name} out
          </button>
        </p>
      ) : null}
      <p role="status" className={classes.said}>
        {said}
      </p>
    </section>
  );
}

/** Who it is, with which role, and how it signs in. */
function Who({ person, view }: Pick<PersonLineProps, 'person' | 'view'>) {
  return (
    <>
      <div>
        <b>{person.name}</b>
        {person.self ? ' (you)' : ''}
        <small>{person.email}</small>
      </div>
      <div>
        {person.role}, {whereWords(person, view)}
        <small>
          {!person.signsIn
            ? 'a person of the demo, without a password'
            : person.secondFactor
              ? 'with a second factor'
              : 'without a second factor'}
          {person.signsIn ? ' · ' : ''}
          {!person.signsIn
            ? ''
            : person.sessions.length === 0
              ? 'signed in nowhere'
              : `signed in ${person.sessions.length} time${person.sessions.length === 1 ? '' : 's'}`}
        </small>
      </div>
    </>
  );
}

interface RoleFormProps {
  person: PersonRow;
  view: PeopleView;
  change: (input: unknown) => Promise<Result<null, Record<string, string>>>;
  done: () => void;
}

function RoleForm({ person, view, change, done }: RoleFormProps) {
  const [reach, setReach] = useState<TypedReach>({
    role: person.role,
    whole: person.only === null,
    tours: [...(person.only?.tours ?? [])],
    codes: (person.only?.records ?? []).map((id) => view.codes[id] ?? id).join(', '),
  });
  const [errors, setErrors] = useState<Record<string, string>>({});
  return (
    <form
      className={`${classes.form} ${classes.said}`}
      onSubmit={(event) => {
        event.preventDefault();
        void change(asked(reach)).then((answer) => {
          setErrors(answer.ok ? {} : answer.error);
          if (answer.ok) done();
        });
      }}
    >
      <ReachFields value={reach} onChange={setReach} tours={view.tours} errors={errors} />
      <button type="submit" className="quietButton">
        Keep it
      </button>
    </form>
  );
}
