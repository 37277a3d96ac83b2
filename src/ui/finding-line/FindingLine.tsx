import type { Finding } from '@/core/findings/finding';
import { findingWords } from '@/core/findings/finding-words';
import classes from './FindingLine.module.css';

interface FindingLineProps {
  /** What was noticed. */
  finding: Finding;
  /** Name of the field it is about, where it does not stand beside it. */
  about?: string;
}

/** One finding: how much it matters, the field, the reason and the way out. */
export function FindingLine({ finding, about }: FindingLineProps) {
  return (
    <p className={classes.line} data-weight={finding.weight}>
      <b>{finding.weight}</b> {about === undefined ? '' : `${about}: `}
      {findingWords(finding)}
    </p>
  );
}
