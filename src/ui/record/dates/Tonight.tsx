import { TextInput } from '@mantine/core';
import { useEffect, useRef, useState } from 'react';
import { isPost } from '@/core/listing/channel-rules';
import type { PerformanceDraft, RecordDraft } from '@/core/record/draft';
import { canBeLater, lates, ofToday, onTheNight, type OnTheNight } from '@/core/record/tonight';
import { useChannels } from '@/ui/use-channels';
import { freshPartId } from '../form-parts';
import classes from '../RecordForm.module.css';

interface TonightProps {
  draft: RecordDraft;
  today: string;
  onChange: (part: (draft: RecordDraft) => Partial<RecordDraft>) => void;
  /** Shows what that does, once it is in the record. */
  onLook: () => void;
}

/** So many acts are named; of more, one is taken out under *Line-up*. */
const mostActs = 4;

/** What was said in the list of today is done here, once. */
function useSaidToday(item: PerformanceDraft | undefined, late: (minutes: number) => void) {
  useEffect(() => {
    const minutes = Number(/^#tonight-(\d+)$/.exec(window.location.hash)?.[1]);
    if (!item || !lates.includes(minutes) || !canBeLater(item, minutes)) return;
    const soon = setTimeout(() => {
      window.history.replaceState(window.history.state, '', window.location.pathname);
      late(minutes);
    });
    return () => clearTimeout(soon);
    // As it was when the record was opened.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
}

/** What goes otherwise tonight: one press leads to what it does, with a post drafted, to be ticked there. */
export function Tonight({ draft, today, onChange, onLook }: TonightProps) {
  const [words, setWords] = useState('');
  const [done, setDone] = useState(0);
  const shown = useRef(0);
  const account = useChannels().all.find(({ row, rules }) => row.connected && isPost(rules));
  // Once it stands in the record.
  useEffect(() => {
    if (done === shown.current) return;
    shown.current = done;
    onLook();
    // What is looked at is the record as it stands when it is put there.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [done]);
  const [item] = ofToday(draft.performances, today);
  const put = (on: OnTheNight) => {
    if (!item) return;
    const post = account ? { channel: account.rules.id, id: freshPartId() } : null;
    onChange((now) => onTheNight(now, item.id, on, post));
    setWords('');
    setDone((at) => at + 1);
  };
  useSaidToday(item, (minutes) => put({ what: 'late', minutes }));
  if (!item) return null;
  const acts = draft.lineUp.filter(({ id }) => !item.lineUpOut.includes(id)).slice(0, mostActs);
  return (
    <div className={classes.tonight} role="group" aria-label="Tonight" id="tonight">
      <p className={classes.inline}>
        <b>Tonight</b> later by
        {lates
          .filter((minutes) => canBeLater(item, minutes))
          .map((minutes) => (
            <button
              key={minutes}
              type="button"
              className="plainButton"
              aria-label={`Later by ${minutes} minutes`}
              onClick={() => put({ what: 'late', minutes })}
            >
              {minutes} min
            </button>
          ))}
        {acts.length < 2 ? null : <span>cannot be there:</span>}
        {acts.length < 2
          ? null
          : acts.map((act) => (
              <button
                key={act.id}
                type="button"
                className="plainButton"
                aria-label={`${act.name} cannot be there`}
                onClick={() => put({ what: 'ill', act })}
              >
                {act.name}
              </button>
            ))}
      </p>
      <form
        className={classes.inline}
        onSubmit={(event) => {
          event.preventDefault();
          if (words.trim() !== '') put({ what: 'door', words });
        }}
      >
        <TextInput
          size="xs"
          label="Another door, or a word to all who come"
          maxLength={120}
          value={words}
          onChange={(e) => setWords(e.currentTarget.value)}
        />
        <button type="submit" className="quietButton" disabled={words.trim() === ''}>
          See what it does
        </button>
      </form>
    </div>
  );
}
