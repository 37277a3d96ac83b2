import Link from 'next/link';
import type { ReactNode } from 'react';
import type { Finding } from '@/core/findings/finding';
import { sectionOf } from '@/core/findings/section-of';
import { findingWords } from '@/core/findings/finding-words';
import classes from './FindingLine.module.css';

interface FindingLineProps {
  /** What was noticed. */
  finding: Finding;
  /** Name of the field it is about, where it does not stand beside it. */
  about?: string;
  /** The record in whose form it is put right, where that is another page. */
  record?: string;
  /** What can be done about it, here and now. */
  children?: ReactNode;
}

/** One finding: how much it matters, the field, the reason and the way out. */
export function FindingLine({ finding, about, record, children }: FindingLineProps) {
  const section = record === undefined ? null : sectionOf(finding.path);
  return (
    <p className={classes.line} data-weight={finding.weight}>
      <b>{finding.weight}</b> {about === undefined ? '' : `${about}: `}
      {findingWords(finding)}{' '}
      {section === null ? null : (
        <Link href={`/records/${record}${section === 'top' ? '' : `#${section}`}`}>Put it right</Link>
      )}{' '}
      {children}
    </p>
  );
}
