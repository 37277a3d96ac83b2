import type { ReactNode } from 'react';
import type { Finding } from '@/core/finding';
import { findingWords } from '@/core/finding-words';
import classes from './RecordForm.module.css';

/** Message for a field: the words of the first finding on that path. */
export type FieldError = (path: string) => string | undefined;

/** Looks up findings by path. */
export function fieldErrors(findings: readonly Finding[]): FieldError {
  return (path) => {
    const found = findings.find((one) => one.field === path);
    return found && findingWords(found);
  };
}

interface SectionProps {
  /** Anchor of the section. */
  id: string;
  /** Its name. */
  title: string;
  children: ReactNode;
}

/** One section of the record. */
export function Section({ id, title, children }: SectionProps) {
  return (
    <section id={id} className={classes.section} aria-label={title}>
      <h2>{title}</h2>
      {children}
    </section>
  );
}

/** A fresh id for a part of a record. */
export function freshPartId(): string {
  return `x${crypto.randomUUID().replaceAll('-', '').slice(0, 14)}`;
}
