import type { ReactNode } from 'react';
import type { Finding } from '@/core/findings/finding';
import { findingWords } from '@/core/findings/finding-words';
import classes from './FindingLine.module.css';

interface FindingLineProps {
  /** What was noticed. */
  finding: Finding;
  /** Name of the field it is about, where it does not stand beside it. */
  about?: string;
  /** What can be done about it, here and now. */
  children?: ReactNode;
}

/** One finding: how much it matters, the field, the reason and the way out. */
export function FindingLine({ finding, about, children }: FindingLineProps) {
  return (
    <p className={classes.line} data-weight={finding.weight}>
      <b>{finding.weight}</b> {about === undefined ? '' : `${about}: `}
      {findingWords(finding)} {children}
    </p>
  );
}
