import Link from 'next/link';
import type { ReactNode } from 'react';
import type { Finding } from '@/core/findings/finding';
import { findingWords } from '@/core/findings/finding-words';
import classes from './FindingLine.module.css';

interface FindingLineProps {
  /** What was noticed. */
  finding: Finding;
  /** Name of the field it is about, where it does not stand beside it. */
  about?: string;
  /** Where it is put right, where that is another page. */
  href?: string | null;
  /** What can be done about it, here and now. */
  children?: ReactNode;
}

/** One finding: how much it matters, the field, the reason and the way out. */
export function FindingLine({ finding, about, href, children }: FindingLineProps) {
  return (
    <p className={classes.line} data-weight={finding.weight}>
      <b>{finding.weight}</b> {about === undefined ? '' : `${about}: `}
      {findingWords(finding)} {href ? <Link href={href}>Put it right</Link> : null} {children}
    </p>
  );
}
