'use client';

import { Menu } from '@mantine/core';
import Link from 'next/link';
import { useRef } from 'react';
import { formatNames, whatFilesLeaveOut } from '@/core/formats/format-words';
import { manyTurns } from '@/core/errands/many-names';
import { useMay } from '@/ui/may/May';
import changes from '@/ui/record/change/Change.module.css';
import { blank, publicities, type Typed, type What } from './edits';
import classes from './Many.module.css';

interface ManyBarProps {
  ids: readonly string[];
  /** How many of them the list does not show. */
  hidden: number;
  /** How many the list shows. */
  shown: number;
  channels: readonly { id: string; name: string }[];
  onAll: () => void;
  onNone: () => void;
  onEdit: (edit: Typed) => void;
}

/** So many events can be named in an address. */
const mostNamed = 300;

/** How many events are chosen, and what can be done with them. */
export function ManyBar({ ids, hidden, shown, channels, onAll, onNone, onEdit }: ManyBarProps) {
  const [writes, sends, exports] = [useMay('write'), useMay('send'), useMay('export')];
  return (
    <div className={changes.bar} role="region" aria-label="Chosen events">
      <p aria-live="polite">
        <b>
          {ids.length} {ids.length === 1 ? 'event' : 'events'} chosen
        </b>{' '}
        {hidden > 0 ? `${hidden} of them not shown here · ` : ''}
        <span className={classes.keys}>x chooses, ⇧ x as far as here · </span>
        {ids.length < shown ? (
          <>
            <button type="button" className={classes.pick} onClick={onAll}>
              all {shown}
            </button>{' '}
            ·{' '}
          </>
        ) : null}
        <button type="button" className={classes.pick} onClick={onNone}>
          none
        </button>
      </p>
      {writes ? (
        <>
          <Choice
            name="Put on a channel …"
            groups={[
              channels.map(({ id, name }) => ({ name: `Put on ${name}`, edit: blank('channel', { channel: id }) })),
              channels.map(({ id, name }) => ({
                name: `Take off ${name}`,
                edit: blank('channel', { channel: id, on: false }),
              })),
              Object.entries(publicities).map(([to, name]) => ({ name, edit: blank('publicity', { text: to }) })),
              [{ name: 'A post about each', edit: blank('post') }],
            ]}
            onEdit={onEdit}
          />
          <Choice
            name="Move, postpone, cancel …"
            groups={[Object.entries(manyTurns).map(([what, name]) => ({ name, edit: blank(what as What) }))]}
            onEdit={onEdit}
          />
          <button type="button" className="quietButton" onClick={() => onEdit(blank('start'))}>
            Change a fact …
          </button>
        </>
      ) : null}
      {exports ? <AsFile ids={ids} /> : null}
      {sends ? (
        ids.length > mostNamed ? (
          <span>What is to send of more than {mostNamed} is seen in Dispatch.</span>
        ) : (
          <Link className="sendButton" href={`/dispatch?record=${ids.join(',')}`}>
            See what is to send
          </Link>
        )
      ) : null}
    </div>
  );
}

interface ChoiceProps {
  name: string;
  groups: { name: string; edit: Typed }[][];
  onEdit: (edit: Typed) => void;
}

/** A menu of edits. */
function Choice({ name, groups, onEdit }: ChoiceProps) {
  return (
    <Menu position="top-start" withinPortal shadow="none">
      <Menu.Target>
        <button type="button" className="quietButton">
          {name}
        </button>
      </Menu.Target>
      <Menu.Dropdown className={classes.menu}>
        {groups.map((items, i) => (
          <div key={items[0]?.name ?? i} className={classes.group}>
            {items.map(({ name: item, edit }) => (
              <Menu.Item key={item} onClick={() => onEdit(edit)}>
                {item}
              </Menu.Item>
            ))}
          </div>
        ))}
      </Menu.Dropdown>
    </Menu>
  );
}

/** The chosen events as a file: they go as a form, for there may be more than an address holds. */
function AsFile({ ids }: { ids: readonly string[] }) {
  const form = useRef<HTMLFormElement>(null);
  const format = useRef<HTMLInputElement>(null);
  const take = (which: string) => {
    if (format.current) format.current.value = which;
    form.current?.submit();
  };
  return (
    <form ref={form} method="post" action="/api/export">
      <input type="hidden" name="ids" value={ids.join(',')} />
      <input ref={format} type="hidden" name="format" defaultValue="csv" />
      <Menu position="top-start" withinPortal shadow="none">
        <Menu.Target>
          <button type="button" className="quietButton" title={whatFilesLeaveOut}>
            As a file
          </button>
        </Menu.Target>
        <Menu.Dropdown className={classes.menu}>
          {(['csv', 'ics', 'json'] as const).map((which) => (
            <Menu.Item key={which} onClick={() => take(which)}>
              {formatNames[which]}
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
    </form>
  );
}
