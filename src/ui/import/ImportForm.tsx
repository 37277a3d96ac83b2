'use client';

import { Select } from '@mantine/core';
import Link from 'next/link';
import { useMemo, useState, useTransition } from 'react';
import { zoneNames } from '@/core/zones';
import { useReady } from '@/ui/ready';
import classes from './ImportForm.module.css';

interface Report {
  made: { line: number; id: string; code: string; title: string; notes: string[] }[];
  known: { line: number; id: string; code: string; title: string }[];
  broken: { line: number; field: string; message: string }[];
}

interface ImportFormProps {
  /** Zone for rows that name none. */
  zone: string;
  needed: readonly string[];
  others: readonly string[];
  read: (fileName: string, text: string, zone: string) => Promise<{ ok: true; value: Report } | { ok: false; error: string }>;
}

/** Reads a file of events: whole rows become records, broken ones are listed by line and can be put right and read again. */
export function ImportForm({ zone, needed, others, read }: ImportFormProps) {
  const zones = useMemo(() => zoneNames(), []);
  const [chosen, setChosen] = useState(zone);
  const [report, setReport] = useState<{ name: string; answer: { ok: true; value: Report } | { ok: false; error: string } } | null>(null);
  const [busy, start] = useTransition();
  const ready = useReady();
  const take = (file: File | undefined) => {
    if (!file) return;
    start(async () => {
      const text = file.size > 5_000_000 ? null : await file.text();
      const answer = text === null ? ({ ok: false, error: 'The file is larger than 5 MB. Split it and read the parts.' } as const) : await read(file.name, text, chosen);
      setReport({ name: file.name, answer });
    });
  };
  return (
    <>
      <div className={classes.form} inert={!ready}>
        <label className={classes.drop}>
          {busy ? 'Reading …' : 'Choose a CSV, iCalendar or JSON file'}
          <input type="file" accept=".csv,.ics,.json,text/csv,text/calendar,application/json" aria-label="File of events" disabled={busy} onChange={(e) => { take(e.currentTarget.files?.[0]); e.currentTarget.value = ''; }} />
        </label>
        <Select label="Zone of rows that name none" data={zones} value={chosen} searchable limit={40} onChange={(value) => setChosen(value ?? chosen)} />
      </div>
      {report === null ? null : report.answer.ok ? <ReportView name={report.name} report={report.answer.value} /> : <p className="problem" role="alert"><b>{report.name}</b>: {report.answer.error}</p>}
      <p className={classes.help}>A CSV needs the columns {needed.join(', ')}. It may have {others.join(', ')}. Rows read before are not taken twice, so a corrected file can be read again as it is.</p>
    </>
  );
}

function ReportView({ name, report }: { name: string; report: Report }) {
  const { made, known, broken } = report;
  return (
    <div className={classes.report} role="status">
      <h2>{name}: {made.length} made, {known.length} already here, {broken.length} broken</h2>
      {broken.length > 0 ? (
        <table>
          <thead><tr><th>line</th><th>field</th><th>why, and the way out</th></tr></thead>
          <tbody>{broken.map((one) => <tr key={`${one.line} ${one.field}`}><td>{one.line}</td><td>{one.field}</td><td className="problem">{one.message}</td></tr>)}</tbody>
        </table>
      ) : null}
      <ul>
        {made.slice(0, 60).map((one) => <li key={one.id}>line {one.line}: <Link href={`/records/${one.id}`}>{one.title}</Link> <span className="code">{one.code}</span> {one.notes.join(' ')}</li>)}
        {made.length > 60 ? <li>and {made.length - 60} more</li> : null}
        {known.slice(0, 20).map((one) => <li key={`k${one.line}`}>line {one.line}: <Link href={`/records/${one.id}`}>{one.title}</Link> was already here, left as it is</li>)}
      </ul>
    </div>
  );
}
