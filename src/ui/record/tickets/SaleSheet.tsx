import dynamic from 'next/dynamic';
import { notFetched } from '@/ui/not-fetched';
import { Checkbox } from '@mantine/core';
import { useState } from 'react';
import { sells } from '@/core/listing/channel-rules';
import { openLines, sheetLines, type SheetTick } from '@/core/listing/sale-sheet';
import { momentWords } from '@/core/dates/date-words';
import type { Facts } from '@/core/facts/facts';
import { useChannels } from '@/ui/use-channels';
import { noAnswer } from '@/ui/no-answer';
import { More } from '../form-parts';
import { type TryPurchase } from './TrialPurchase';
import classes from '../RecordForm.module.css';

const TrialPurchase = dynamic(() => import('./TrialPurchase').then(({ TrialPurchase }) => TrialPurchase, notFetched));

/** Ticks a line, or takes the tick back; gives a message where that cannot be. */
export type Tick = (input: { line: string; value: string; on: boolean }) => Promise<string | null>;

interface SaleSheetProps {
  facts: Facts;
  ticks: readonly SheetTick[];
  /** The sale has been opened before: only what was ticked then is told. */
  opened: boolean;
  /** `null`: the record is not saved yet. */
  tick: Tick | null;
  /** Tries a purchase; `null`: the record is not saved yet. */
  trial: TryPurchase | null;
  zone: string;
}

/**
 * What is gone through before a sale opens for the first time, line by line; each tick with a name, void when the fact
 * moves.
 */
export function SaleSheet({ facts, ticks, opened, tick, trial, zone }: SaleSheetProps) {
  const channels = useChannels();
  const [problem, setProblem] = useState('');
  const [pending, setPending] = useState<{ ticks: readonly SheetTick[]; lines: Record<string, boolean> }>({
    ticks,
    lines: {},
  });
  const lines = sheetLines(facts);
  const open = new Set(openLines(lines, ticks).map((line) => line.id));
  const selling = channels.all.filter(
    ({ rules }) => sells(rules) && facts.outlets.some((outlet) => outlet.channel === rules.id),
  );
  const lockedBy = (field: string | null) =>
    selling
      .filter(({ rules }) => rules.locks.some((lock) => field !== null && lock.fields.includes(field)))
      .map(({ rules }) => rules.name);
  const set = async (line: string, value: string, on: boolean) => {
    setPending({ ticks, lines: { ...(pending.ticks === ticks ? pending.lines : {}), [line]: on } });
    const said = await (tick?.({ line, value, on }) ?? Promise.resolve(null)).catch(() => noAnswer);
    setProblem(said ?? '');
    if (said !== null) setPending({ ticks, lines: {} });
  };
  const trials =
    trial === null
      ? []
      : selling
          .filter(({ rules }) => rules.tries === true)
          .map(({ rules }) => (
            <TrialPurchase key={rules.id} channel={rules} facts={facts} ticks={ticks} trial={trial} zone={zone} />
          ));
  // A sale that runs is gone through no more; a purchase can be tried at any time.
  if (opened && !ticks.some((tick) => lines.some((line) => line.id === tick.line)))
    return trials.length === 0 ? null : (
      <More label="try a purchase" open={false}>
        {trials}
      </More>
    );
  // What was pressed shows at once; what the house then says takes its place.
  const pressed = pending.ticks === ticks ? pending.lines : {};
  return (
    <More
      label={`${opened ? 'the sheet from before the sale' : 'before the sale opens'}: ${lines.length - open.size} of ${lines.length} lines ticked`}
      open={!opened && ticks.length > 0 && open.size > 0}
    >
      <table className={classes.links} aria-label="Before the sale opens">
        <tbody>
          {lines.map((line) => (
            <SheetRow
              key={line.id}
              line={line}
              ticks={ticks}
              locks={lockedBy(line.field)}
              pressed={pressed[line.id]}
              zone={zone}
              onTick={tick === null ? null : (on) => void set(line.id, line.value, on)}
            />
          ))}
        </tbody>
      </table>
      {trials}
      {tick === null ? <p className={classes.muted}>Save the record to tick its lines.</p> : null}
      {problem === '' ? null : (
        <p className="problem" role="alert">
          {problem}
        </p>
      )}
    </More>
  );
}

/** One line of the sheet: who ticked it, or what it read when it was; and who locks that from the first sale on. */
function SheetRow({
  line: { id, label, value },
  ticks,
  locks,
  pressed,
  zone,
  onTick,
}: {
  line: ReturnType<typeof sheetLines>[number];
  ticks: readonly SheetTick[];
  locks: readonly string[];
  /** What was pressed just now, before the house answered. */
  pressed: boolean | undefined;
  zone: string;
  onTick: ((on: boolean) => void) | null;
}) {
  const done = ticks.find((tick) => tick.line === id && tick.value === value);
  const was = done ? undefined : ticks.find((tick) => tick.line === id);
  return (
    <tr>
      <td>
        <Checkbox
          label={label}
          checked={pressed ?? done !== undefined}
          disabled={onTick === null}
          onChange={(e) => onTick?.(e.currentTarget.checked)}
        />
      </td>
      <td>{value === '' ? 'not said' : value}</td>
      <td>
        {done ? `${done.by}, ${momentWords(done.at, zone)}` : ''}
        {was ? `it read “${was.value}” when ${was.by} ticked it` : ''}
        {locks.length > 0 ? (
          <span className={classes.locks}> locked at {locks.join(', ')} from the first sale on</span>
        ) : null}
      </td>
    </tr>
  );
}
