'use client';

import { TextInput } from '@mantine/core';
import { useRouter } from 'next/navigation';
import { useState, type SyntheticEvent } from 'react';
import { momentWords } from '@/core/dates/date-words';
import { fail } from '@/core/base/result';
import { noAnswer } from '@/ui/no-answer';
import type { InvitationRow, PeopleView } from '@/views/people';
import classes from './People.module.css';
import type { HandedOut, PeopleDoings } from './people-doings';
import { PersonLine } from './PersonLine';
import { asked, ReachFields, type TypedReach } from './ReachFields';

type FieldErrors = Record<string, string>;

interface PeopleScreenProps extends PeopleDoings {
  view: PeopleView;
  zone: string;
}

/** Who may come in, with which role and where; ways in that are open; and what was done of late. */
export function PeopleScreen({ view, zone, ...doings }: PeopleScreenProps) {
  return (
    <div className={classes.page}>
      <h1>People</h1>
      <p className={classes.lead}>
        Whoever is here has a role; what it may not is not offered, and refused when it is asked for.
      </p>
      {view.persons.map((person) => (
        <PersonLine key={person.id} person={person} view={view} zone={zone} {...doings} />
      ))}
      <Invite tours={view.tours} invite={doings.invite} />
      <Open invitations={view.invitations} zone={zone} takeBack={doings.takeBack} />
      <section className={classes.part}>
        <h2>Of late</h2>
        {view.doings.length === 0 ? <p>Nothing yet.</p> : null}
        <ul className={classes.book}>
          {view.doings.map(({ id, at, doer, words }) => (
            <li key={id}>
              <b>{doer}</b> {words} <time>{momentWords(at, zone)}</time>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}

const nobody: TypedReach = { role: 'writer', whole: true, tours: [], codes: '' };

/** Invites somebody: by letter where mail is set, else with a link to hand over. */
function Invite({ tours, invite }: { tours: PeopleView['tours']; invite: PeopleDoings['invite'] }) {
  const router = useRouter();
  const [reach, setReach] = useState(nobody);
  const [errors, setErrors] = useState<FieldErrors>({});
  const [out, setOut] = useState<(HandedOut & { name: string }) | null>(null);
  const submit = async (event: SyntheticEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = event.currentTarget;
    const typed = Object.fromEntries(new FormData(form));
    const answer = await invite({ name: typed.name, email: typed.email, ...asked(reach) }).catch(() =>
      fail<FieldErrors>({ '': noAnswer }),
    );
    setErrors(answer.ok ? {} : answer.error);
    if (!answer.ok) return;
    setOut({ ...answer.value, name: String(typed.name) });
    form.reset();
    setReach(nobody);
    router.refresh();
  };
  return (
    <section className={classes.part}>
      <h2>Let somebody in</h2>
      <form className={classes.form} onSubmit={(event) => void submit(event)}>
        <TextInput name="name" label="Name" required error={errors.name} autoComplete="off" />
        <TextInput name="email" type="email" label="Address" required error={errors.email} autoComplete="off" />
        <ReachFields value={reach} onChange={setReach} tours={tours} errors={errors} />
        <button type="submit" className="sendButton">
          Invite
        </button>
        {errors[''] ? (
          <p role="alert" className={`problem ${classes.wide}`}>
            {errors['']}
          </p>
        ) : null}
      </form>
      {out === null ? null : (
        <div role="status">
          <p>
            {out.letter === 'sent'
              ? `A letter with this link went to ${out.name}.`
              : out.letter === 'none'
                ? `Hand this link over to ${out.name}: it is shown once, works once, and for three days.`
                : `The letter did not go out (${out.letter.failed}). Hand this link over to ${out.name}: it is shown once.`}
          </p>
          <p className={classes.link}>{out.link}</p>
          <button type="button" className="plainButton" onClick={() => void navigator.clipboard.writeText(out.link)}>
            Copy it
          </button>
        </div>
      )}
    </section>
  );
}

interface OpenProps {
  invitations: readonly InvitationRow[];
  zone: string;
  takeBack: PeopleDoings['takeBack'];
}

/** Ways in that were handed out and are not used yet. */
function Open({ invitations, zone, takeBack }: OpenProps) {
  const router = useRouter();
  const [said, setSaid] = useState('');
  if (invitations.length === 0) return null;
  return (
    <section className={classes.part}>
      <h2>Not come in yet</h2>
      <ul className={classes.book}>
        {invitations.map(({ hash, sort, name, email, role, by, until }) => (
          <li key={hash} className={classes.tools}>
            <span>
              {sort === 'first' ? 'the first keeper' : `${name}, ${email}`} as {role}, by {by}, until{' '}
              {momentWords(until, zone)}
            </span>
            <button
              type="button"
              className="plainButton"
              onClick={() =>
                void takeBack(hash)
                  .catch(() => fail(noAnswer))
                  .then((answer) => {
                    setSaid(answer.ok ? 'Taken back: the link works no more.' : answer.error);
                    router.refresh();
                  })
              }
            >
              Take it back
            </button>
          </li>
        ))}
      </ul>
      <p role="status">{said}</p>
    </section>
  );
}
