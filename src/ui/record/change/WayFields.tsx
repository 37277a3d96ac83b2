import { Radio, TextInput } from '@mantine/core';
import { shortDate } from '@/core/dates/date-words';
import type { Way } from '@/core/errands/steps';
import type { Picked } from '@/ui/dispatch/picked';
import classes from './Change.module.css';

/** Whom a way tells, and whether it can be unsaid. */
function costWords({ tells, undo, leaves, id }: Way, sold: number): string {
  if (id === 'leave') return leaves;
  const whom =
    tells === 'nobody'
      ? ''
      : tells === 'buyers'
        ? `writes to ${sold === 0 ? 'whoever bought' : `${sold} buyers`}`
        : `tells ${tells}`;
  const back = undo.how === 'never' ? 'for ever' : undo.how === 'in part' ? 'cannot be unsaid' : '';
  return [whom, back, leaves].filter((words) => words !== '').join('; ');
}

interface WayFieldsProps {
  /** Names the group of choices. */
  name: string;
  ways: readonly Way[];
  sold: number;
  /** What is to be typed where a way cannot be taken back. */
  code: string;
  /** What is put first as the reason, and as the day until which it may stay. */
  reason: string;
  until: string;
  picked: Picked | null;
  onPick: (picked: Picked) => void;
}

/** The ways through what is locked, and what the picked one asks for. */
export function WayFields({ name, ways, sold, code, reason, until, picked, onPick }: WayFieldsProps) {
  const way = ways.find(({ id }) => id === picked?.way);
  const put = (part: Partial<Picked>) => onPick({ way: '', reason, code: '', until, ...picked, ...part });
  const why = way?.needs.includes('reason')
    ? { label: 'Why, in public words' }
    : way?.id === 'leave'
      ? {
          label: 'Why it stays as it is there',
          description: `For ourselves, with your name. It asks again after ${shortDate(until, true)}.`,
        }
      : null;
  return (
    <>
      <Radio.Group
        aria-label="What is to be done about it"
        value={picked?.way ?? ''}
        onChange={(id) => put({ way: id })}
      >
        {ways.map((item) => (
          <div key={item.id} className={classes.way} data-picked={item.id === picked?.way || undefined}>
            <Radio value={item.id} name={`way-${name}`} size="xs" label={item.title} />
            <span className={classes.quiet}>{costWords(item, sold)}</span>
          </div>
        ))}
      </Radio.Group>
      {why === null ? null : (
        <TextInput
          size="xs"
          {...why}
          value={picked?.reason ?? ''}
          onChange={(e) => put({ reason: e.currentTarget.value })}
        />
      )}
      {way?.needs.includes('code') ? (
        <TextInput
          size="xs"
          w={260}
          label={`Type ${code}: it cannot be taken back`}
          value={picked?.code ?? ''}
          onChange={(e) => put({ code: e.currentTarget.value })}
        />
      ) : null}
    </>
  );
}
