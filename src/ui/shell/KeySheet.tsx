import { Modal, TextInput } from '@mantine/core';
import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { useMemo, useState } from 'react';
import { PennantLegend } from '@/ui/pennant/PennantLegend';
import { glossary, lookUp, type Entry } from './glossary';
import classes from './Shell.module.css';

const keys = [
  ['/', 'find an event'],
  ['N', 'new record'],
  ['G', 'season'],
  ['D', 'what is to send'],
  ['B', 'read-back'],
  ['X', 'choose the event in the season; ⇧ X as far as here'],
  ['Ctrl S', 'save the record'],
  ['?', 'this sheet'],
] as const;

const sectionNames: Record<string, string> = {
  essentials: 'Essentials',
  dates: 'Dates and place',
  'line-up': 'Line-up',
  tickets: 'Tickets',
  words: 'Words',
  picture: 'Pictures',
  publicity: 'Publicity',
  notices: 'Posts and letters',
  history: 'History',
  top: 'its head',
};

/** Leads to a section of the record that is open, and opens the fold in it. */
function openFold(section: string, fold: string | undefined) {
  const place = section === 'top' ? null : document.getElementById(section);
  if (place === null) document.querySelector('[data-work]')?.scrollTo({ top: 0 });
  else place.scrollIntoView({ block: 'start' });
  if (fold === undefined) return;
  const bar = [...document.querySelectorAll<HTMLButtonElement>('[data-work] button[aria-expanded]')].find((button) =>
    button.textContent.includes(fold),
  );
  if (bar?.getAttribute('aria-expanded') === 'false') bar.click();
  bar?.focus();
  bar?.scrollIntoView({ block: 'center' });
}

/** What a word means and where it is done; what each pennant means, and which key does what. */
export function KeySheet({ onClose }: { onClose: () => void }) {
  const [typed, setTyped] = useState('');
  const found = useMemo(() => lookUp(typed), [typed]);
  const inRecord = /^\/records\//.test(usePathname());
  const go = (entry: Entry) => {
    const { where } = entry;
    onClose();
    // Once the sheet has gone, so that the focus stays where it is led to.
    if ('section' in where) setTimeout(() => openFold(where.section, where.fold), 250);
  };
  return (
    <Modal
      opened
      onClose={onClose}
      title="Words, pennants and keys"
      size="lg"
      classNames={{ title: classes.sheetTitle }}
    >
      <TextInput
        data-autofocus
        label="What are you looking for?"
        placeholder="age, cancel, coupon, embargo …"
        value={typed}
        onChange={(e) => setTyped(e.currentTarget.value)}
        onKeyDown={(e) => {
          const [first] = found;
          if (e.key === 'Enter' && typed.trim() !== '' && first && 'section' in first.where && inRecord) go(first);
        }}
      />
      {typed.trim() === '' ? (
        <>
          <PennantLegend />
          <dl className={classes.keys}>
            {keys.map(([key, words]) => (
              <div key={key}>
                <dt>
                  <kbd>{key}</kbd>
                </dt>
                <dd>{words}</dd>
              </div>
            ))}
          </dl>
        </>
      ) : (
        <Found found={found} inRecord={inRecord} go={go} onClose={onClose} />
      )}
    </Modal>
  );
}

interface FoundProps {
  found: readonly Entry[];
  inRecord: boolean;
  go: (entry: Entry) => void;
  onClose: () => void;
}

/** The words that were found, each with where it is done. */
function Found({ found, inRecord, go, onClose }: FoundProps) {
  if (found.length === 0)
    return <p role="status">No such word among {glossary.length}. Try another, or a shorter one.</p>;
  return (
    <dl className={classes.words} aria-live="polite">
      {found.slice(0, 12).map((entry) => (
        <div key={entry.word}>
          <dt>{entry.word}</dt>
          <dd>
            {entry.means}{' '}
            {'href' in entry.where ? (
              <Link href={entry.where.href} onClick={onClose}>
                {entry.where.name}
              </Link>
            ) : inRecord ? (
              <button type="button" className="plainButton" onClick={() => go(entry)}>
                {entry.where.section === 'top' ? 'At the head' : `Under ${sectionNames[entry.where.section]}`}
              </button>
            ) : (
              <span>
                In a record,{' '}
                {entry.where.section === 'top' ? 'at its head' : `under ${sectionNames[entry.where.section]}`}.
              </span>
            )}
          </dd>
        </div>
      ))}
    </dl>
  );
}
