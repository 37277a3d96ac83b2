import { Checkbox, Select, TextInput } from '@mantine/core';
import { useRef, useState } from 'react';
import { z } from 'zod';
import { documentEndings } from '@/core/record/document-types';
import type { RecordDocument } from '@/core/record/record';
import { recordLimits, seers } from '@/core/record/choices';
import type { RecordDraft } from '@/core/record/draft';
import { DateField } from '@/ui/date-field';
import { noAnswer } from '@/ui/no-answer';
import { freshPartId, type FieldError } from '../form-parts';
import classes from '../RecordForm.module.css';

interface DocumentsProps {
  documents: RecordDocument[];
  performances: RecordDraft['performances'];
  onChange: (documents: RecordDocument[]) => void;
  error: FieldError;
  /** Something is on its way: a save waits for it. */
  onBusy: (busy: boolean) => void;
}

const seenBy: Record<(typeof seers)[number], string> = {
  anyone: 'anyone',
  holders: 'who holds a place',
  press: 'the press',
};
const answerSchema = z.union([
  z.object({ fileId: z.string(), name: z.string(), type: z.string(), bytes: z.number() }),
  z.object({ message: z.string() }),
]);

/** Files that go with the event: a programme sheet, a plan, a press text; each for whom, and from when. */
export function Documents(props: DocumentsProps) {
  const list = useDocumentChanges(props);
  const { documents, busy, picker, add, problem } = list;
  return (
    <>
      {documents.map((document, i) => (
        <DocumentRow key={document.id} list={list} document={document} i={i} />
      ))}
      <div className={classes.inline}>
        <button
          type="button"
          className="plainButton"
          disabled={busy || documents.length >= recordLimits.documents}
          onClick={() => picker.current?.click()}
        >
          {busy ? 'Taking the document in …' : 'Add a document'}
        </button>
        <span>{documentEndings}, up to 15 MB</span>
        <input
          ref={picker}
          type="file"
          hidden
          aria-label="Document file"
          onChange={(e) => {
            void add(e.currentTarget.files?.[0]);
            e.currentTarget.value = '';
          }}
        />
      </div>
      {problem === '' ? null : (
        <p className="problem" role="alert">
          {problem}
        </p>
      )}
    </>
  );
}

/** The documents, and how one is added. */
function useDocumentChanges({ documents, performances, onChange, error, onBusy }: DocumentsProps) {
  const picker = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState('');
  const [busy, setBusy] = useState(false);
  const set = (id: string, part: Partial<RecordDocument>) =>
    onChange(documents.map((document) => (document.id === id ? { ...document, ...part } : document)));
  const add = async (file: File | undefined) => {
    if (!file) return;
    setProblem('');
    setBusy(true);
    onBusy(true);
    const answer = await fetch(`/api/documents?name=${encodeURIComponent(file.name)}`, { method: 'POST', body: file })
      .then(async (response) => answerSchema.parse(await response.json()))
      .catch(() => ({ message: noAnswer }));
    setBusy(false);
    onBusy(false);
    if ('message' in answer) return setProblem(answer.message);
    onChange([...documents, { id: freshPartId(), ...answer, title: '', who: 'anyone', from: null }]);
  };
  return { error, set, performances, onChange, documents, busy, picker, add, problem };
}

type DocumentChanges = ReturnType<typeof useDocumentChanges>;

/** One document: what it is called, and who sees it from when. */
function DocumentRow({
  list: { error, set, performances, onChange, documents },
  document,
  i,
}: {
  list: DocumentChanges;
  document: RecordDocument;
  i: number;
}) {
  return (
    <div className={classes.inline} role="group" aria-label={`Document ${i + 1}`}>
      <TextInput
        style={{ flex: 1, minWidth: 140 }}
        label="Document"
        value={document.title}
        placeholder={document.name}
        error={error(`documents.${i}.title`)}
        onChange={(e) => set(document.id, { title: e.currentTarget.value })}
      />
      <Select
        w={136}
        label="Seen by"
        data={seers.map((value) => ({ value, label: seenBy[value] }))}
        value={document.who}
        allowDeselect={false}
        onChange={(who) => set(document.id, { who: (who ?? 'holders') as RecordDocument['who'] })}
      />
      <Checkbox
        label="not before"
        checked={document.from !== null}
        onChange={(e) =>
          set(document.id, {
            from: e.currentTarget.checked
              ? { date: performances[0]?.date ?? '2027-01-01', time: '10:00', zone: performances[0]?.zone ?? 'UTC' }
              : null,
          })
        }
      />
      {document.from ? (
        <>
          <DateField
            w={126}
            aria-label="Not before, date"
            value={document.from.date}
            onDate={(date) => document.from && set(document.id, { from: { ...document.from, date } })}
          />
          <TextInput
            w={64}
            aria-label="Not before, time"
            value={document.from.time}
            error={error(`documents.${i}.from.time`)}
            onChange={(e) =>
              document.from && set(document.id, { from: { ...document.from, time: e.currentTarget.value } })
            }
          />
        </>
      ) : null}
      <a href={`/api/documents/${document.fileId}`} download={document.name}>
        {Math.max(1, Math.round(document.bytes / 1024))} kB
      </a>
      <button
        type="button"
        className="plainButton"
        aria-label={`Remove ${document.title || document.name}`}
        onClick={() => onChange(documents.filter((candidate) => candidate.id !== document.id))}
      >
        remove
      </button>
    </div>
  );
}
