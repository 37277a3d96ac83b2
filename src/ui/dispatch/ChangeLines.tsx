import { useChannelNames } from '@/ui/use-channels/channel-names';
import type { Operation } from '@/core/listing/operations';
import { splitKey } from '@/core/listing/shown';
import { wordsOf, type PlainChange } from '@/core/listing/value-words';
import classes from './Dispatch.module.css';

interface ChangeLinesProps {
  channel: string;
  op: Operation;
  changes: PlainChange[];
  /** For a first placing: the few fields that identify it, the rest on demand. */
  brief: boolean;
}

const telling = new Set(['title', 'start', 'place', 'link', 'price']);

/** What an errand changes, before and after, field by field. */
export function ChangeLines({ channel, op, changes, brief }: ChangeLinesProps) {
  const channels = useChannelNames();
  // A renewal changes no field: what lapses is said beside it.
  if (op === 'renew') return null;
  const whole = !brief || channels.carriesNotices(channel);
  const main = !whole ? changes.filter((change) => telling.has(splitKey(change.key).field)) : changes;
  const rest = changes.filter((change) => !main.includes(change));
  return (
    <>
      <dl className={classes.changes}>
        {main.slice(0, 12).map((change) => (
          <Line key={change.key} channel={channel} change={change} />
        ))}
      </dl>
      {rest.length + Math.max(0, main.length - 12) > 0 ? (
        <details className={classes.more}>
          <summary>and {rest.length + Math.max(0, main.length - 12)} more fields</summary>
          <dl className={classes.changes}>
            {[...main.slice(12), ...rest].map((change) => (
              <Line key={change.key} channel={channel} change={change} />
            ))}
          </dl>
        </details>
      ) : null}
    </>
  );
}

function Line({ channel, change }: { channel: string; change: PlainChange }) {
  const label = useChannelNames().label(channel, splitKey(change.key).field);
  return (
    <div className={classes.change}>
      <dt>{label}</dt>
      <dd>
        {change.before === null ? null : (
          <>
            <del>{brief(wordsOf(change.before))}</del> <span aria-hidden="true">→</span>{' '}
          </>
        )}
        <ins>{brief(wordsOf(change.after))}</ins>
      </dd>
    </div>
  );
}

function brief(words: string): string {
  return words.length > 200 ? `${words.slice(0, 199)}…` : words;
}
