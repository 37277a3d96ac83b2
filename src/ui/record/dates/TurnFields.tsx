import { Select, Textarea, TextInput } from '@mantine/core';
import type { LineUpEntry } from '@/core/record/record';
import { asksTickets, draftedTurn, type TurnGround, type TurnSaid } from '@/core/record/turn-said';
import type { Doing, TurnChosen } from '@/core/record/turned';
import { DateField } from '@/ui/date-field';
import classes from '../RecordForm.module.css';

type Typed = TurnChosen & TurnSaid;

/** Who cannot be there, and who plays. */
export function LineUpFields({
  typed,
  lineUp,
  onChange,
}: {
  typed: Typed;
  lineUp: readonly LineUpEntry[];
  onChange: (part: Partial<Typed>) => void;
}) {
  return (
    <>
      <Select
        label="Who cannot be there"
        placeholder="nobody"
        clearable
        data={lineUp.map(({ id, name }) => ({ value: id, label: name }))}
        value={typed.act}
        onChange={(act) => onChange({ act })}
      />
      <TextInput
        label="Who plays instead, or besides"
        maxLength={120}
        value={typed.joins}
        onChange={(e) => onChange({ joins: e.currentTarget.value })}
      />
    </>
  );
}

interface SaidFieldsProps {
  doing: Doing;
  typed: Typed;
  ground: TurnGround;
  /** Accounts that a post or letter can be drafted for. */
  accounts: readonly { value: string; label: string }[];
  /** The one that is chosen; `null`: none. */
  account: string | null;
  onAccount: (account: string) => void;
  onChange: (part: Partial<Typed>) => void;
}

/** What is said of a turn: why, what becomes of tickets, and the words of a post, drafted from both. */
export function SaidFields({ doing, typed, ground, accounts, account, onAccount, onChange }: SaidFieldsProps) {
  const why = doing !== 'soldOut' && doing !== 'extra' && doing !== 'back';
  return (
    <>
      {why ? (
        <TextInput
          label="Why, in public words"
          placeholder="e.g. the singer is ill"
          maxLength={160}
          value={typed.why}
          onChange={(e) => onChange({ why: e.currentTarget.value })}
        />
      ) : null}
      {asksTickets(doing, ground.draft.tickets) ? (
        <div className={classes.inline}>
          <Select
            label="Tickets that were bought"
            data={[
              { value: 'valid', label: 'stay valid' },
              { value: 'returned', label: 'are paid back' },
            ]}
            value={typed.tickets}
            allowDeselect={false}
            onChange={(value) => onChange({ tickets: value === 'returned' ? 'returned' : 'valid' })}
          />
          <DateField
            label="Paid back until"
            placeholder="nothing said"
            value={typed.until}
            onDate={(until) => onChange({ until })}
            onClear={() => onChange({ until: null })}
          />
          <TextInput
            label="Where, or by whom"
            placeholder="where they were bought"
            maxLength={80}
            value={typed.by}
            onChange={(e) => onChange({ by: e.currentTarget.value })}
          />
        </div>
      ) : null}
      {accounts.length === 0 ? null : (
        <Select
          label="Said by"
          data={[...accounts]}
          value={account}
          allowDeselect={false}
          onChange={(value) => value !== null && onAccount(value)}
        />
      )}
      {account === null ? null : (
        <Textarea
          label="Its words, drafted: they go only if they are ticked on the next page"
          autosize
          minRows={2}
          maxRows={6}
          maxLength={4000}
          value={typed.words ?? draftedTurn(doing, typed, typed, ground)}
          onChange={(e) => onChange({ words: e.currentTarget.value })}
        />
      )}
    </>
  );
}
