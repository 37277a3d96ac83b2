import { Select, Textarea, TextInput } from '@mantine/core';
import { manyHours, manyLines, manyTexts } from '@/core/errands/many-names';
import { DateField } from '@/ui/date-field';
import type { ManyChoices } from '@/views/many';
import { blank, manyFacts, type Typed, type What } from './edits';
import classes from './Many.module.css';

interface EditFieldsProps {
  typed: Typed;
  choices: ManyChoices;
  onTyped: (part: Partial<Typed>) => void;
}
type FieldProps = Pick<EditFieldsProps, 'typed' | 'onTyped'>;

/** Which fact it is, where it is one, and what it asks for. */
export function EditFields(props: EditFieldsProps) {
  const { typed, onTyped } = props;
  return (
    <>
      {typed.what in manyFacts ? (
        <Select
          label="Fact"
          w={190}
          allowDeselect={false}
          data={Object.entries(manyFacts).map(([value, label]) => ({ value, label }))}
          value={typed.what}
          onChange={(what) => (what === null ? undefined : onTyped(blank(what as What)))}
        />
      ) : null}
      <Asked key={typed.what} {...props} />
    </>
  );
}

/** What an edit asks for: one thing, or two. */
function Asked(props: EditFieldsProps) {
  const { what } = props.typed;
  if (what in manyHours)
    return (
      <LineField
        {...props}
        label="To"
        placeholder="19:30, or +30"
        description={what === 'start' ? 'Doors and end move along' : undefined}
      />
    );
  if (what === 'eventType') return <TypeField {...props} />;
  if (what in manyLines) return <LineField {...props} label="To" />;
  if (what in manyTexts)
    return (
      <>
        <HowField {...props} label="Put it" ways={textWays} />
        <LongField {...props} label={manyTexts[what as keyof typeof manyTexts]} />
      </>
    );
  switch (what) {
    case 'tags':
      return (
        <>
          <HowField {...props} label="Tags are" ways={tagWays} />
          <LineField {...props} label="Tags" placeholder="with commas between them" />
        </>
      );
    case 'announce':
    case 'onSale':
      return <MomentFields {...props} />;
    case 'move':
      return (
        <>
          <PlaceField {...props} />
          <TurnFields {...props} />
        </>
      );
    case 'postpone':
    case 'cancel':
      return <TurnFields {...props} />;
    case 'post':
      return (
        <>
          <PostField {...props} />
          <LongField {...props} label="Words; {{ title }}, {{ start }} and {{ link }} follow each event" />
        </>
      );
    default:
      return null;
  }
}

interface LineFieldProps extends FieldProps {
  label: string;
  placeholder?: string;
  description?: string | undefined;
  /** The id of what is offered. */
  list?: string;
}

function LineField({ typed, onTyped, label, placeholder = '', description, list }: LineFieldProps) {
  return (
    <TextInput
      data-autofocus
      {...{ label, placeholder, description, list }}
      value={typed.text}
      onChange={(e) => onTyped({ text: e.currentTarget.value })}
    />
  );
}

function LongField({ typed, onTyped, label }: FieldProps & { label: string }) {
  return (
    <Textarea
      data-autofocus
      className={classes.wide}
      label={label}
      autosize
      minRows={2}
      maxRows={6}
      value={typed.text}
      onChange={(e) => onTyped({ text: e.currentTarget.value })}
    />
  );
}

const textWays = [
  { value: 'behind', label: 'behind what stands there' },
  { value: 'before', label: 'before what stands there' },
  { value: 'instead', label: 'in place of it' },
];
const tagWays = [
  { value: 'add', label: 'added' },
  { value: 'take off', label: 'taken off' },
];

function HowField({ typed, onTyped, label, ways }: FieldProps & { label: string; ways: typeof textWays }) {
  return (
    <Select
      label={label}
      w={210}
      allowDeselect={false}
      data={ways}
      value={typed.how}
      onChange={(how) => onTyped({ how: how ?? typed.how })}
    />
  );
}

function TypeField({ typed, onTyped, choices }: EditFieldsProps) {
  return (
    <>
      <LineField {...{ typed, onTyped }} label="To" list="event-types" />
      <datalist id="event-types">
        {choices.eventTypes.map((name) => (
          <option key={name} value={name} />
        ))}
      </datalist>
    </>
  );
}

function MomentFields({ typed, onTyped }: FieldProps) {
  const isSale = typed.what === 'onSale';
  return (
    <>
      <DateField
        label={isSale ? 'On sale on' : 'Announced on'}
        value={typed.date}
        onDate={(date) => onTyped({ date })}
      />
      <TextInput
        label={isSale ? 'At, where it takes place' : 'At'}
        value={typed.time}
        onChange={(e) => onTyped({ time: e.currentTarget.value })}
      />
    </>
  );
}

function PlaceField({ typed, onTyped, choices }: EditFieldsProps) {
  return (
    <Select
      label="To which room or venue"
      className={classes.wide}
      data={choices.places}
      value={typed.place}
      searchable
      limit={60}
      nothingFoundMessage="Not in the directory."
      onChange={(place) => onTyped({ place })}
    />
  );
}

/** What is said of a turn: why, what becomes of tickets, and on which account a post is drafted for each. */
function TurnFields(props: EditFieldsProps) {
  const { typed, onTyped } = props;
  return (
    <>
      <LineField {...props} label="Why, in public words" placeholder="nothing said of it" />
      <Select
        label="Tickets that were bought"
        w={170}
        allowDeselect={false}
        data={[
          { value: 'valid', label: 'stay valid' },
          { value: 'returned', label: 'are paid back' },
        ]}
        value={typed.tickets}
        onChange={(value) => onTyped({ tickets: value === 'returned' ? 'returned' : 'valid' })}
      />
      <DateField
        label="Paid back until"
        placeholder="nothing said"
        value={typed.date}
        onDate={(date) => onTyped({ date })}
        onClear={() => onTyped({ date: null })}
      />
      <TextInput
        label="Where, or by whom"
        placeholder="where they were bought"
        maxLength={80}
        value={typed.by}
        onChange={(e) => onTyped({ by: e.currentTarget.value })}
      />
      <PostField {...props} label="A post drafted for each, on" />
    </>
  );
}

function PostField({ typed, onTyped, choices, label = 'Where' }: EditFieldsProps & { label?: string }) {
  return (
    <Select
      label={label}
      placeholder={label === 'Where' ? '' : 'none'}
      clearable={label !== 'Where'}
      w={210}
      data={choices.posts}
      value={typed.channel === '' ? null : typed.channel}
      onChange={(channel) => onTyped({ channel: channel ?? '' })}
    />
  );
}
