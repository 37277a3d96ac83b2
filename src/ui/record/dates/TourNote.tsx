import { ownFacts, sharedFacts, type TourShared } from '@/core/record/tour';
import type { RecordContent } from '@/core/record/record';
import { useForHouse } from '@/ui/may/May';
import classes from '../RecordForm.module.css';

interface TourNoteProps {
  tourId: string;
  name: string;
  shared: TourShared;
  /** The record as it is typed; `null` while it does not hold. */
  content: RecordContent | null;
  /** Takes the tour's word for some of the facts. */
  onFollow: (content: RecordContent) => void;
}

/** Says that the record is a date of a tour, and in what it departs from it. */
export function TourNote({ tourId, name, shared, content, onFollow }: TourNoteProps) {
  const forHouse = useForHouse();
  const own = content ? ownFacts(content, shared) : [];
  return (
    <p className={classes.tourNote}>
      A date of {forHouse ? <a href={`/tours/${tourId}`}>{name}</a> : name}.{' '}
      {own.length === 0 ? 'What the tour shares follows it.' : 'Of its own, and kept when the tour changes:'}{' '}
      {own.map((key) => {
        const fact = sharedFacts[key];
        return fact && content ? (
          <span key={key}>
            {fact.name} (
            <button
              type="button"
              className="plainButton"
              aria-label={`Follow the tour in ${fact.name}`}
              onClick={() => onFollow(fact.put(content, shared))}
            >
              follow the tour
            </button>
            ){' '}
          </span>
        ) : null;
      })}
    </p>
  );
}
