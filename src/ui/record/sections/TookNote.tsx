import type { RecordDraft } from '@/core/record/draft';
import type { OwnFact } from '@/core/record/house-own';
import classes from '../RecordForm.module.css';

interface TookNoteProps {
  took: readonly OwnFact[];
  /** Leaves all of it out again. */
  onLeave: (change: (draft: RecordDraft) => RecordDraft) => void;
}

const names: Record<OwnFact, string> = {
  venue: 'venue and room',
  organiser: 'organiser',
  currency: 'currency',
  doors: 'doors',
  age: 'age guidance',
  access: 'access',
  refunds: 'refunds',
};

/** Says what a new record begins with because it is usual in the house. */
export function TookNote({ took, onLeave }: TookNoteProps) {
  const all = took.map((fact) => names[fact]);
  return (
    <p className={classes.tourNote}>
      As usual in this house: {all.join(', ')}. Change what is otherwise here, or{' '}
      <button type="button" className="plainButton" onClick={() => onLeave((draft) => without(draft, took))}>
        leave all of it out
      </button>
      .
    </p>
  );
}

/** The draft without what the house gave; a currency it has in any case. */
function without(draft: RecordDraft, took: readonly OwnFact[]): RecordDraft {
  const gone = (fact: OwnFact) => took.includes(fact);
  const place = gone('venue') ? { venueId: null, roomId: null, setUpId: null } : {};
  return {
    ...draft,
    organiserId: gone('organiser') ? null : draft.organiserId,
    performances: draft.performances.map((item) => ({ ...item, ...place, ...(gone('doors') ? { doors: '' } : {}) })),
    tickets: { ...draft.tickets, refunds: gone('refunds') ? '' : draft.tickets.refunds },
    words: {
      ...draft.words,
      age: gone('age') ? '' : draft.words.age,
      access: gone('access') ? '' : draft.words.access,
    },
  };
}
