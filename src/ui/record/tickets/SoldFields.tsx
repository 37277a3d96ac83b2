import { noAnswer } from '@/ui/no-answer';
import { Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { OutletDraft } from '@/core/record/draft';
import type { Pace } from './outlet-props';
import type { OutletProps } from './outlet-props';
import classes from '../RecordForm.module.css';

/** How many an outlet has sold, and noting a count that no channel reads. */
export function SoldFields({
  outlet,
  performance,
  tickets,
  noteSold,
  pace,
}: OutletProps & { outlet: OutletDraft; pace: Pace | undefined }) {
  const [typed, setTyped] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const level = tickets.levels.find((level) => level.id === chosen) ?? tickets.levels[0];
  const words = pace
    ? `${pace.sold} sold${pace.left === null ? '' : `, ${pace.left} left`}${pace.perDay > 0 ? `, ${pace.perDay} a day` : ''}`
    : '';
  if (outlet.channel !== null || noteSold === null || performance === undefined || !level)
    return (
      <p className={classes.underLine}>
        {words}
        {outlet.channel === null ? '' : '; counted by reading the channel'}
      </p>
    );
  const note = async () => {
    const sold = Number(typed);
    setProblem(
      /^\d+$/.test(typed.trim())
        ? await noteSold({ performanceId: performance, levelId: level.id, outletId: outlet.id, sold }).catch(
            () => noAnswer,
          )
        : 'Sold: write a whole number.',
    );
    setTyped('');
  };
  return (
    <div className={classes.inline}>
      <span>{words}</span>
      <TextInput
        w={70}
        aria-label={`Sold by ${outlet.name}`}
        placeholder="count"
        value={typed}
        onChange={(e) => setTyped(e.currentTarget.value)}
        error={problem}
      />
      {tickets.levels.length > 1 ? (
        <Select
          w={130}
          aria-label={`Which level, ${outlet.name}`}
          data={tickets.levels.map((level) => ({ value: level.id, label: level.name }))}
          value={level.id}
          allowDeselect={false}
          onChange={setChosen}
        />
      ) : null}
      <button type="button" className="plainButton" onClick={() => void note()}>
        Note {level.name} sold so far
      </button>
    </div>
  );
}
