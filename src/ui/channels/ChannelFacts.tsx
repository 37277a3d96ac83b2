import classes from './ChannelCard.module.css';
import type { ChannelCardProps } from './channel-card-props';

/** How it does, in figures. */
export function Health({
  health: { lastRead, median, nineInTen, waiting, pausedFor },
  expected,
  pace,
  failing,
}: {
  health: ChannelCardProps['channel']['health'];
  expected: string;
  pace: string;
  failing: boolean;
}) {
  return (
    <dl className={classes.health}>
      <div>
        <dt>answers</dt>
        <dd>{failing ? 'no' : lastRead === '' ? 'not read yet' : `read ${lastRead}`}</dd>
      </div>
      <div>
        <dt>a change shows in</dt>
        <dd>
          {median === '' ? `${expected}, as it says` : median}
          {nineInTen === '' ? '' : <small> 9 in 10: {nineInTen}</small>}
        </dd>
      </div>
      {pace === '' ? null : (
        <div>
          <dt>pace</dt>
          <dd>
            {pace}
            {pausedFor === '' ? '' : <small> paused {pausedFor}</small>}
          </dd>
        </div>
      )}
      <div>
        <dt>waiting</dt>
        <dd>
          {waiting} {waiting === 1 ? 'errand' : 'errands'}
        </dd>
      </div>
    </dl>
  );
}

/** What it does with what we send, from its rules. */
export function Rules({ channel }: { channel: ChannelCardProps['channel'] }) {
  const rows: [string, readonly string[]][] = [
    ['gives', channel.gives === '' ? [] : [`the ${channel.gives}`]],
    ['locks', channel.locks],
    ['picture', [channel.picture]],
    ['fee', channel.fee === '' ? [] : [channel.fee]],
    ['off until set', channel.off],
    ['ours alone', channel.oursOnly],
    ['late when', channel.lateCauses],
    ['taking it off unties', channel.unties],
  ];
  return (
    <>
      <h3>What it does with what we send</h3>
      <dl className={classes.rules}>
        {rows
          .filter(([, words]) => words.length > 0)
          .map(([name, words]) => (
            <div key={name}>
              <dt>{name}</dt>
              <dd>{words.join(' · ')}</dd>
            </div>
          ))}
      </dl>
    </>
  );
}

/** Its habits in plain words, the limits of its fields, and what can be done there. */
export function Habits({ channel: { habits, fields, operations } }: Pick<ChannelCardProps, 'channel'>) {
  return (
    <>
      <h3>Its habits</h3>
      <ul className={classes.habits}>
        {habits.map((habit) => (
          <li key={habit}>{habit}</li>
        ))}
      </ul>
      <Table
        summary={`Its ${fields.length} fields`}
        rows={fields.map(({ label, limit, need }) => [label, limit, need])}
      />
      <Table
        summary="What can be done there"
        rows={operations.map(({ name, does, tells, undo }) => [
          name,
          does,
          [tells, undo].filter((words) => words !== '').join(', '),
        ])}
      />
    </>
  );
}

function Table({ summary, rows }: { summary: string; rows: readonly [string, string, string][] }) {
  return (
    <details>
      <summary>{summary}</summary>
      <table>
        <tbody>
          {rows.map(([first, ...others]) => (
            <tr key={first}>
              <td>{first}</td>
              {others.map((words, i) => (
                <td key={i}>{words}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
