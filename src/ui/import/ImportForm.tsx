'use client';

import { Progress, Select } from '@mantine/core';
import Link from 'next/link';
import { useMemo, useState } from 'react';
import { zoneNames } from '@/core/base/zones';
import { useReady } from '@/ui/ready';
import type { FileJob, FileReport, SaidOfTown } from '@/views/files';
import { askedTowns, headWords, isUnderWay, progressWords } from './file-job';
import classes from './ImportForm.module.css';
import { useFileJob } from './use-file-job';

interface ImportFormProps {
  /** Files that were read lately, newest first. */
  jobs: readonly FileJob[];
  needed: readonly string[];
  others: readonly string[];
  /** Largest file that is taken. */
  mostBytes: number;
}

/**
 * Reads a file of events: whole rows become records, broken ones are listed by line, and what no rule may guess is
 * asked.
 */
export function ImportForm({ jobs, needed, others, mostBytes }: ImportFormProps) {
  const zones = useMemo(() => zoneNames(), []);
  const [zone, setZone] = useState<string | null>(null);
  const { job, sent, error, setError, take, stop, again } = useFileJob(jobs);
  const ready = useReady();
  const busy = sent !== null || (job !== null && isUnderWay(job));
  const choose = (file: File | undefined) => {
    if (!file) return;
    if (file.size > mostBytes)
      setError(`${file.name} is larger than ${mostBytes / 1_000_000} MB. Split it and read the parts.`);
    else take(file, zone);
  };
  return (
    <>
      <div className={classes.form} inert={!ready}>
        <label className={classes.drop} data-busy={busy || undefined}>
          {busy ? 'A file is being read …' : 'Choose a CSV, iCalendar or JSON file, or a saved web page'}
          <input
            type="file"
            accept=".csv,.ics,.json,.html,.htm,text/csv,text/calendar,application/json,text/html"
            aria-label="File of events"
            disabled={busy}
            onChange={(e) => {
              choose(e.currentTarget.files?.[0]);
              e.currentTarget.value = '';
            }}
          />
        </label>
        <Select
          label="Zone of rows whose place does not tell it"
          placeholder="ask me"
          data={zones}
          value={zone}
          searchable
          clearable
          clearSectionMode="clear"
          limit={40}
          onChange={setZone}
        />
      </div>
      {sent !== null ? (
        <UnderWay words={`Sending ${sent.name} …`} share={sent.share} onStop={() => void stop()} />
      ) : job !== null && isUnderWay(job) ? (
        <UnderWay
          words={`${job.name}: ${progressWords(job)}`}
          share={job.progress.of > 0 ? job.progress.place / job.progress.of : null}
          onStop={() => void stop()}
        />
      ) : null}
      {error !== null ? (
        <p className="problem" role="alert">
          {error}
        </p>
      ) : null}
      {sent === null && job !== null && job.state === 'failed' ? (
        <p className="problem" role="alert">
          <b>{job.name}</b>: {job.error}
        </p>
      ) : null}
      {sent === null && job !== null && !isUnderWay(job) && (job.state !== 'failed' || job.report.counts.made > 0) ? (
        <ReportView key={job.id} job={job} zones={zones} onAgain={(chosen, answers) => void again(chosen, answers)} />
      ) : null}
      <p className={classes.help}>
        A CSV needs the columns {needed.join(', ')}. It may have {others.join(', ')}. A row whose zone is not said takes
        that of its venue, its town or its country. Of a web page what it states for programs is read: save it as “web
        page, HTML only”. Rows read before are not taken twice, so a corrected file can be read again as it is. Up to{' '}
        {mostBytes / 1_000_000} MB.
      </p>
    </>
  );
}

function UnderWay({ words, share, onStop }: { words: string; share: number | null; onStop: () => void }) {
  return (
    <div className={classes.underWay} role="status">
      <span>{words}</span>
      <Progress
        value={share === null ? 100 : Math.max(2, Math.round(share * 100))}
        animated={share === null}
        aria-label="How far it is"
        size="sm"
      />
      <button type="button" className="plainButton" onClick={onStop}>
        Stop
      </button>
    </div>
  );
}

function ReportView({
  job,
  zones,
  onAgain,
}: {
  job: FileJob;
  zones: string[];
  onAgain: (zone: string | null, answers: SaidOfTown[]) => void;
}) {
  const { report } = job;
  const { counts, made, known, broken, notes } = report;
  return (
    <div className={classes.report} role="status">
      <h2>{headWords(job)}</h2>
      {job.state === 'stopped' ? (
        <p>It was stopped. What had been taken in stays; read the file again for the rest.</p>
      ) : null}
      {notes.length > 0 ? (
        <ul className={classes.notes}>
          {notes.map((note) => (
            <li key={`${note.line} ${note.text}`}>{note.text}</li>
          ))}
        </ul>
      ) : null}
      {counts.asked > 0 ? <Questions report={report} zones={zones} onAgain={onAgain} /> : null}
      {broken.length > 0 ? (
        <table>
          <thead>
            <tr>
              <th>line</th>
              <th>field</th>
              <th>why, and the way out</th>
            </tr>
          </thead>
          <tbody>
            {broken.map((brokenRow, i) => (
              <tr key={`${i} ${brokenRow.line} ${brokenRow.field}`}>
                <td>{brokenRow.line || ''}</td>
                <td>{brokenRow.field}</td>
                <td className="problem">{brokenRow.text}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
      {counts.broken > broken.length ? <p>and {counts.broken - broken.length} more broken rows.</p> : null}
      <ul>
        {made.slice(0, 60).map((readRow) => (
          <li key={readRow.id}>
            line {readRow.line}: <Link href={`/records/${readRow.id}`}>{readRow.title}</Link>{' '}
            <span className="code">{readRow.code}</span> {readRow.notes.join(' ')}
          </li>
        ))}
        {counts.made > Math.min(60, made.length) ? <li>and {counts.made - Math.min(60, made.length)} more</li> : null}
        {known.slice(0, 20).map((readRow) => (
          <li key={`k${readRow.line}`}>
            line {readRow.line}: <Link href={`/records/${readRow.id}`}>{readRow.title}</Link> was already here, left as
            it is
          </li>
        ))}
        {counts.known > 20 ? <li>and {counts.known - 20} more that were already here</li> : null}
      </ul>
    </div>
  );
}

/** What is asked of a town: which of several, or in which zone it is. */
function askWords(town: string, country: string, several: boolean): string {
  const place = [town, country].filter((part) => part !== '').join(', ');
  if (town === '') return 'Rows that say neither a zone nor a town: in which zone are they?';
  return several ? `Which ${place}?` : `${place} is not among the towns that are known: in which zone is it?`;
}

/**
 * What the file does not say and no rule may guess: the zone of towns of which there are several, or that are not
 * known.
 */
function Questions({
  report,
  zones,
  onAgain,
}: {
  report: FileReport;
  zones: string[];
  onAgain: (zone: string | null, answers: SaidOfTown[]) => void;
}) {
  const towns = useMemo(() => askedTowns(report), [report]);
  /** The label of the town, or the zone, that was picked for each. */
  const [picked, setPicked] = useState<Record<string, string>>({});
  const set = (key: string, value: string | null) =>
    setPicked(({ [key]: _, ...rest }) => (value === null ? rest : { ...rest, [key]: value }));
  const given = towns.flatMap(({ key, town, country, choices }): SaidOfTown[] => {
    const value = picked[key];
    if (value === undefined || town === '') return [];
    const chosen = choices.find((choice) => choice.label === value);
    return [{ town, country, zone: chosen?.zone ?? value, point: chosen?.point ?? null }];
  });
  const whole = picked['|'] ?? null;
  return (
    <fieldset className={classes.questions}>
      <legend>
        {report.counts.asked === 1
          ? 'One row waits for an answer; it is'
          : `${report.counts.asked} rows wait for an answer; they are`}{' '}
        not in yet
      </legend>
      {towns.map(({ key, town, country, choices, lines }) => (
        <Select
          key={key}
          searchable
          clearable
          clearSectionMode="clear"
          limit={60}
          value={picked[key] ?? null}
          onChange={(value) => set(key, value)}
          label={`${askWords(town, country, choices.length > 0)} (${lines.length === 1 ? 'line' : 'lines'} ${lines.slice(0, 8).join(', ')}${lines.length > 8 ? ' …' : ''})`}
          placeholder="pick one"
          data={choices.length > 0 ? choices.map((choice) => choice.label) : zones}
        />
      ))}
      <button
        type="button"
        className="quietButton"
        disabled={given.length === 0 && whole === null}
        title={given.length === 0 && whole === null ? 'Answer at least one first' : undefined}
        onClick={() => onAgain(whole, given)}
      >
        Take these rows in
      </button>
    </fieldset>
  );
}
