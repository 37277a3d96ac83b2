'use client';

import { Combobox, useCombobox } from '@mantine/core';
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
              channels.map(({ id, name }) => ({ name: `Put on ${name}`, value: blank('channel', { channel: id }) })),
              channels.map(({ id, name }) => ({
                name: `Take off ${name}`,
                value: blank('channel', { channel: id, on: false }),
              })),
              Object.entries(publicities).map(([to, name]) => ({ name, value: blank('publicity', { text: to }) })),
              [{ name: 'A post about each', value: blank('post') }],
            ]}
            onChoose={onEdit}
          />
          <Choice
            name="Move, postpone, cancel …"
            groups={[Object.entries(manyTurns).map(([what, name]) => ({ name, value: blank(what as What) }))]}
            onChoose={onEdit}
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

interface ChoiceProps<T> {
  name: string;
  title?: string;
  /** What is offered, in groups. */
  groups: { name: string; value: T }[][];
  onChoose: (value: T) => void;
}

/** A button that offers several things to be done. */
function Choice<T>({ name, title, groups, onChoose }: ChoiceProps<T>) {
  const list = useCombobox({ onDropdownClose: () => list.resetSelectedOption() });
  const all = groups.flat();
  return (
    <Combobox
      store={list}
      position="top-start"
      width={260}
      onOptionSubmit={(at) => {
        list.closeDropdown();
        const item = all[Number(at)];
        if (item) onChoose(item.value);
      }}
    >
      <Combobox.Target targetType="button">
        <button type="button" className="quietButton" title={title} onClick={() => list.toggleDropdown()}>
          {name}
        </button>
      </Combobox.Target>
      <Combobox.Dropdown className={classes.menu}>
        <Combobox.Options>
          {groups.map((items, i) => (
            <div key={items[0]?.name ?? i} className={classes.group}>
              {items.map((item) => (
                <Combobox.Option key={item.name} value={String(all.indexOf(item))}>
                  {item.name}
                </Combobox.Option>
              ))}
            </div>
          ))}
        </Combobox.Options>
      </Combobox.Dropdown>
    </Combobox>
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
      <Choice
        name="As a file"
        title={whatFilesLeaveOut}
        groups={[(['csv', 'ics', 'json'] as const).map((which) => ({ name: formatNames[which], value: which }))]}
        onChoose={take}
      />
    </form>
  );
}
