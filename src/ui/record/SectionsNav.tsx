import type { Finding } from '@/core/findings/finding';
import { fieldOf } from '@/core/findings/finding';
import classes from './RecordForm.module.css';
import { Doings } from './sections/Doings';
import { asking, sinceWords } from './screen-words';
import type { RecordScreenProps } from './record-screen-props';
import type { Saving } from './use-save-record';
import type { DraftState } from './use-record-draft';

const sections = [
  [
    'essentials',
    'Essentials',
    /^(title|shortTitle|subtitle|eventType|categories|stage|tags|hashtags|radius|online|video|sound|organiserId|tourId)/,
  ],
  ['dates', 'Dates, place', /^performances/],
  ['picture', 'Pictures', /^pictures/],
  ['words', 'Words', /^(words|documents|toFollow)/],
  ['line-up', 'Line-up', /^(lineUp|programme)/],
  ['tickets', 'Tickets', /^tickets/],
  ['publicity', 'Publicity', /^(publicity|audience|links|leadsAway|linkChoices|after|guests)/],
  ['notices', 'Posts, letters', /^notices/],
  ['history', 'History', /^$/],
] as const;

/** The sections of a record, each with how much in it asks for a look; the revision, and what is done with the whole. */
export function SectionsNav({
  context,
  log,
  saved,
  zone,
  today,
  state,
  visible,
  told,
  saving,
}: Pick<RecordScreenProps, 'context' | 'log' | 'saved' | 'zone'> & {
  today: string;
  state: DraftState;
  visible: readonly Finding[];
  told: readonly Finding[];
  saving: Saving;
}) {
  return (
    <nav className={classes.sections} aria-label="Sections">
      <span className="code">{context.code || 'new'}</span>
      {sections.map(([id, name, pattern]) => {
        const count =
          visible.filter((finding) => pattern.test(fieldOf(finding))).length + asking(id, told, context.clashes.length);
        return (
          <a key={id} href={`#${id}`}>
            {name}
            {count > 0 ? <i>{count}</i> : null}
          </a>
        );
      })}
      {log[0] ? (
        <div className={classes.revision}>
          revision {log[0].number} <br />
          by {log[0].actor}, {sinceWords(log[0].at, today, zone)}
        </div>
      ) : null}
      {saved && context.id !== null ? (
        <Doings
          id={context.id}
          saved={saved}
          title={state.draft.title}
          changed={state.changed}
          hasTour={state.draft.tourId !== null}
          onProblem={(words) => saving.tell([words])}
        />
      ) : null}
    </nav>
  );
}
