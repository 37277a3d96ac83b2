import { Checkbox, SegmentedControl, Select, TextInput } from '@mantine/core';
import { precisions, turns } from '@/core/record/choices';
import type { PerformanceDraft } from '@/core/record/draft';
import { DateField } from '@/ui/date-field';
import classes from '../RecordForm.module.css';
import type { PerformanceEditorProps } from './dates-props';
import { precisionWords } from './precision-words';

const turnNames: Record<PerformanceDraft['turn'], string> = {
  none: 'as planned',
  postponed: 'postponed',
  rescheduled: 'rescheduled',
  moved: 'moved to another place',
  cancelled: 'cancelled',
};

/** What is seldom said of a date: how much is known of it, what befell it, its last day, its own link and line-up. */
export function MoreOfDate(props: PerformanceEditorProps) {
  const { path, error, performance, set } = props;
  return (
    <>
      <div className={classes.inline}>
        <span>Known of the date</span>
        <SegmentedControl
          aria-label="Known of the date"
          value={performance.precision}
          data={precisions.map((value) => ({ value, label: precisionWords[value] }))}
          onChange={(value) => set({ precision: value as typeof performance.precision })}
        />
      </div>
      <div className={classes.grid}>
        <Select
          className={classes.w2}
          label="Status"
          data={turns.map((value) => ({ value, label: turnNames[value] }))}
          value={performance.turn}
          allowDeselect={false}
          onChange={(turn) => set({ turn: (turn ?? 'none') as typeof performance.turn })}
        />
        <TextInput
          className={classes.w2}
          label="Note"
          placeholder="relaxed performance"
          value={performance.note}
          onChange={(e) => set({ note: e.currentTarget.value })}
          error={error(`${path}.note`)}
        />
        <DateField
          className={classes.w2}
          label="Last day, of several"
          value={performance.lastDate}
          onDate={(lastDate) => set({ lastDate })}
          onClear={() => set({ lastDate: null })}
          error={error(`${path}.lastDate`)}
        />
        <TextInput
          className={classes.w6}
          label="Its own ticket link"
          value={performance.link}
          placeholder="as the others"
          onChange={(e) => set({ link: e.currentTarget.value })}
          error={error(`${path}.link`)}
        />
      </div>
      <div className={classes.inline}>
        <Checkbox
          label="pencilled: held, told to nobody yet"
          checked={performance.pencilled}
          onChange={(e) => set({ pencilled: e.currentTarget.checked })}
        />
        <Checkbox
          label="sold out"
          checked={performance.soldOut}
          onChange={(e) => set({ soldOut: e.currentTarget.checked })}
        />
        <Checkbox
          label="the end is not shown to the public"
          checked={performance.endHidden}
          onChange={(e) => set({ endHidden: e.currentTarget.checked })}
        />
      </div>
      <OwnLineUp {...props} />
      <TextInput
        mt={8}
        label="Also on this time"
        value={performance.lineUpExtra}
        onChange={(e) => set({ lineUpExtra: e.currentTarget.value })}
        error={error(`${path}.lineUpExtra`)}
      />
    </>
  );
}

/** Who of the line-up is on that time. */
function OwnLineUp({ lineUp, performance, set }: PerformanceEditorProps) {
  if (lineUp.length < 2) return null;
  return (
    <div className={classes.inline}>
      <span>Not on this time</span>
      {lineUp.slice(0, 12).map((entry) => (
        <Checkbox
          key={entry.id}
          label={entry.name}
          checked={performance.lineUpOut.includes(entry.id)}
          onChange={(e) =>
            set({
              lineUpOut: e.currentTarget.checked
                ? [...performance.lineUpOut, entry.id]
                : performance.lineUpOut.filter((id) => id !== entry.id),
            })
          }
        />
      ))}
    </div>
  );
}
