import { TextInput } from '@mantine/core';
import { momentWords } from '@/core/dates/date-words';
import type { Change, Way } from '@/core/errands/steps';
import { fieldOf } from '@/core/findings/finding';
import type { Undo } from '@/core/listing/operations';
import { FindingLine } from '@/ui/finding-line';
import { Pennant } from '@/ui/pennant';
import { useChannelNames } from '@/ui/use-channels/channel-names';
import type { ErrandToSend, EventToSend } from '@/views/dispatch';
import classes from './Dispatch.module.css';
import { tickedFirst } from './kept-ticks';
import type { Picked } from './picked';
import { whereRight } from './where-right';

/** How far an operation can be taken back, in short. */
export const undoShort: Record<Undo['how'], string> = {
  wholly: 'can be undone',
  'in part': 'can be undone in part',
  never: 'cannot be undone',
};

interface ErrandProps {
  errand: ErrandToSend;
  event: Pick<EventToSend, 'recordId' | 'code' | 'zone'>;
  /** The moment that it waits for is told with others of the same. */
  momentTold: boolean;
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

/** One channel that takes a change: its tick, what keeps it, and what is chosen besides. */
export function Errand(props: ErrandProps) {
  const { errand, event, chosen, picked, onPick } = props;
  const channels = useChannelNames();
  return (
    <div className={classes.item} data-channel={errand.channel} data-more={saysMore(props) || undefined}>
      <Head {...props} />
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

/** True where it has more to say than its name: it then takes a line of its own. */
function saysMore({ errand, chosen }: ErrandProps): boolean {
  const { findings, orDraft, effects, deleting } = errand;
  return findings.length > 0 || orDraft !== null || effects.length > 0 || (deleting !== null && chosen);
}

function Head({ errand, event, momentTold, chosen, onFlip, picked }: ErrandProps) {
  const channels = useChannelNames();
  const deletes = picked !== null && errand.deleting !== null;
  const { op, notBefore, waitsFor } = errand;
  const plain = op === 'amend' || op === 'place';
  return (
    <label className={classes.tick} data-off={!chosen || undefined}>
      <input type="checkbox" checked={chosen} onChange={onFlip} />
      <Pennant standing={notBefore === null ? (op === 'place' ? 'unplaced' : 'due') : 'embargoed'} silent size={20} />
      <b>{channels.name(errand.channel)}</b>
      {errand.part === '' ? '' : ` ${errand.part}`}
      <span>
        {deletes ? 'delete' : plain ? '' : channels.does(errand.channel, op).toLowerCase()}
        {staysDraft(errand.changes) ? ' as a draft: nobody sees it yet' : ''}
      </span>
      {waitsFor.length > 0 ? <span title="It gives the ticket link">after {waitsFor.join(', ')}</span> : null}
      {notBefore === null || momentTold ? null : <span>not before {momentWords(notBefore, event.zone)}</span>}
      {chosen || momentTold ? null : <span>{whyUnticked(errand)}</span>}
      {deletes ? <span>{undoShort.never}</span> : null}
    </label>
  );
}

/** Why it is not ticked: it never is by itself, or a person took it out. */
function whyUnticked(errand: ErrandToSend): string {
  if (tickedFirst(errand)) return 'left out by you';
  return errand.notBefore === null ? `tells ${errand.tells}: only if you say so` : 'goes at its moment once you say so';
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
