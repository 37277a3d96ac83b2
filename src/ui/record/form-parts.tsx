import { Fields, useFills, useOpen } from '@/ui/may/Fields';
import { Opener } from '@/ui/may/Opener';
import { useState, type ReactNode } from 'react';
import { fieldOf, type Finding } from '@/core/findings/finding';
import { findingWords } from '@/core/findings/finding-words';
import classes from './RecordForm.module.css';

/** Message for a field: the words of the first finding on that path; and the paths that have one. */
export type FieldError = ((path: string) => string | undefined) & { paths: readonly string[] };

/** Looks up findings by path. */
export function fieldErrors(findings: readonly Finding[]): FieldError {
  const byField = new Map<string, Finding>();
  for (const finding of findings) if (!byField.has(fieldOf(finding))) byField.set(fieldOf(finding), finding);
  const words = (path: string) => {
    const found = byField.get(path);
    return found && findingWords(found);
  };
  return Object.assign(words, { paths: [...byField.keys()] });
}

interface SectionProps {
  /** Anchor of the section. */
  id: string;
  /** Its name. */
  title: string;
  /** What stands at the right end of its heading. */
  aside?: ReactNode;
  children: ReactNode;
}

/** One section of the record. */
export function Section({ id, title, aside, children }: SectionProps) {
  return (
    <section id={id} className={classes.section} aria-label={title}>
      <h2>
        {title}
        {aside ? <span className={classes.aside}>{aside}</span> : null}
      </h2>
      <Fields open={useFills(id) !== 'nothing'}>{children}</Fields>
    </section>
  );
}

interface MoreProps {
  /** What is behind it, in a few words. */
  label: string;
  /** Open from the start: something in it is filled or wrong. */
  open: boolean;
  /** Which channels have a place for it; not there: that is not asked. */
  wantedBy?: readonly string[];
  children: ReactNode;
}

/** Fields that most events do not need: one line until they are asked for, or filled. */
export function More({ label, open, wantedBy, children }: MoreProps) {
  const [chosen, setChosen] = useState<boolean | null>(null);
  const filled = useOpen();
  const shown = chosen ?? (!filled || open);
  return (
    <div className={classes.more}>
      <Opener className={classes.moreBar} aria-expanded={shown} onClick={() => setChosen(!shown)}>
        <span aria-hidden="true">{shown ? '−' : '+'}</span> {label}
        {wantedBy === undefined ? null : (
          <em className={classes.wantedBy}>
            {wantedBy.length === 0 ? 'no channel of yours shows it' : `for ${wantedBy.join(', ')}`}
          </em>
        )}
      </Opener>
      {shown ? <div className={classes.moreBody}>{children}</div> : null}
    </div>
  );
}

const problemsId = (row: string) => `${row}-problems`;

/** For a field too narrow to say what is wrong with it: it is marked, and points to the row's problems. */
export function narrow(
  error: FieldError,
  row: string,
  field: string,
): { error: boolean; 'aria-errormessage'?: string } {
  return error(`${row}.${field}`) === undefined
    ? { error: false }
    : { error: true, 'aria-errormessage': problemsId(row) };
}

interface RowProblemsProps {
  error: FieldError;
  /** Path of the row. */
  row: string;
  /** Its fields that do not say their own problems. */
  fields: readonly string[];
}

/** What is wrong with the narrow fields of a row, a line each beneath it. */
export function RowProblems({ error, row, fields }: RowProblemsProps) {
  const said = fields.flatMap((field) => error(`${row}.${field}`) ?? []);
  if (said.length === 0) return null;
  return (
    <div id={problemsId(row)} className={classes.rowProblems}>
      {said.map((words) => (
        <p key={words} className="problem">
          {words}
        </p>
      ))}
    </div>
  );
}

/** A fresh id for a part of a record. */
export function freshPartId(): string {
  return `x${crypto.randomUUID().replaceAll('-', '').slice(0, 14)}`;
}
