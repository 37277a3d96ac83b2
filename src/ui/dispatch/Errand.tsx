import { TextInput } from '@mantine/core';
import { momentWords } from '@/core/dates/date-words';
import type { Change, Way } from '@/core/errands/steps';
import { fieldOf } from '@/core/findings/finding';
import type { Undo } from '@/core/listing/operations';
import { FindingLine } from '@/ui/finding-line';
import { Pennant } from '@/ui/pennant';
import { useChannelNames } from '@/ui/use-channels/channel-names';
import type { ErrandToSend, EventToSend } from '@/views/dispatch';
import { ChangeLines } from './ChangeLines';
import classes from './Dispatch.module.css';
import type { Picked } from './picked';
import { whereRight } from './where-right';

const undoShort: Record<Undo['how'], string> = {
  wholly: 'can be undone',
  'in part': 'can be undone in part',
  never: 'cannot be undone',
};

interface ErrandProps {
  errand: ErrandToSend;
  event: Pick<EventToSend, 'recordId' | 'code' | 'zone'>;
  chosen: boolean;
  onFlip: () => void;
  /** Side effects that are asked for, by listing and name. */
  besides: ReadonlySet<string>;
  onBesides: (key: string) => void;
  /** It was said to go without its link. */
  without: boolean;
  onWithout: () => void;
  onDraft: () => void;
  /** It is to be deleted there, as far as that was said. */
  picked: Picked | null;
  onPick: (picked: Picked | null) => void;
}

/** One errand that could go: what it changes, what is to be known of it, and what is chosen besides. */
export function Errand(props: ErrandProps) {
  const { errand, event, chosen, picked, onPick } = props;
  const channels = useChannelNames();
  return (
    <div className={classes.errand} data-channel={errand.channel}>
      <Head {...props} />
      <ChangeLines channel={errand.channel} op={errand.op} changes={errand.changes} brief={errand.op === 'place'} />
      {errand.findings.map((f) => (
        <FindingLine
          key={fieldOf(f) + f.code}
          finding={f}
          about={channels.label(errand.channel, fieldOf(f))}
          href={whereRight(event.recordId, f)}
        />
      ))}
      <OrDraft {...props} />
      {errand.effects.map(({ id, does }) => (
        <label key={id} className={classes.besides}>
          <input
            type="checkbox"
            checked={props.besides.has(`${errand.listing} ${id}`)}
            onChange={() => props.onBesides(`${errand.listing} ${id}`)}
          />
          <span>also {does}</span>
        </label>
      ))}
      {errand.deleting === null || !chosen ? null : (
        <Deleting way={errand.deleting} eventCode={event.code} picked={picked} onPick={onPick} />
      )}
    </div>
  );
}

function Head({ errand, event, chosen, onFlip, picked }: ErrandProps) {
  const channels = useChannelNames();
  const deletes = picked !== null && errand.deleting !== null;
  return (
    <label className={classes.errandHead}>
      <input type="checkbox" checked={chosen} onChange={onFlip} />
      <Pennant standing={errand.notBefore === null ? 'due' : 'embargoed'} silent size={20} />
      <b>{channels.name(errand.channel)}</b>
      {errand.part === '' ? '' : ` ${errand.part}`}
      <span>
        {deletes ? 'delete' : channels.does(errand.channel, errand.op).toLowerCase()}
        {staysDraft(errand.changes) ? ' as a draft: nobody sees it yet' : ''}
      </span>
      {errand.waitsFor.length > 0 ? <span>after {errand.waitsFor.join(', ')}, which gives the ticket link</span> : null}
      {errand.notBefore === null ? null : <span>not before {momentWords(errand.notBefore, event.zone)}</span>}
      <span className={classes.cost}>
        {undoShort[deletes ? 'never' : errand.undo.how]} · {errand.requests}{' '}
        {errand.requests === 1 ? 'request' : 'requests'}
      </span>
    </label>
  );
}

/** Where its link is not to be had yet: it goes without, or stays a draft. */
function OrDraft({ errand: { orDraft }, without, onWithout, onDraft }: ErrandProps) {
  if (orDraft === null) return null;
  return (
    <p className={classes.besides}>
      <button type="button" className="plainButton" aria-pressed={without} onClick={onWithout}>
        {without ? 'Goes without the link' : 'Go without'}
      </button>
      {orDraft.draft ? (
        <button type="button" className="plainButton" onClick={onDraft}>
          Stay draft
        </button>
      ) : null}
    </p>
  );
}

/** Deleting it there, offered beside taking it down: with what it does, and the event's code to be typed. */
function Deleting({
  way,
  eventCode,
  picked,
  onPick,
}: {
  way: Way;
  eventCode: string;
  picked: Picked | null;
  onPick: (picked: Picked | null) => void;
}) {
  const fresh: Picked = { way: way.id, reason: '', code: '', until: '' };
  return (
    <>
      <label className={classes.besides}>
        <input type="checkbox" checked={picked !== null} onChange={() => onPick(picked === null ? fresh : null)} />
        <span>
          {way.title} it there instead. {way.does} It cannot be taken back.
        </span>
      </label>
      {picked === null ? null : (
        <TextInput
          className={classes.deleting}
          size="xs"
          w={260}
          label={`Type ${eventCode} to delete it there`}
          value={picked.code}
          onChange={(e) => onPick({ ...fresh, code: e.currentTarget.value })}
        />
      )}
    </>
  );
}

/** True where what goes out is not to be seen yet. */
function staysDraft(changes: readonly Change[]): boolean {
  return changes.some(({ after }) => after?.kind === 'state' && after.is === 'draft');
}
