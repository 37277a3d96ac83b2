import { Checkbox, SegmentedControl, Select, TextInput } from '@mantine/core';
import type { LevelDraft, RecordDraft } from '@/core/draft';
import { currencies, type Currency } from '@/core/money';
import { ticketModes } from '@/core/ticket-schema';
import { freshPartId, Section, type FieldError } from './form-parts';
import classes from './RecordForm.module.css';

type Tickets = RecordDraft['tickets'];

interface TicketsSectionProps {
  tickets: Tickets;
  onChange: (tickets: Tickets) => void;
  /** The price as the public will read it, or nothing. */
  words: string;
  error: FieldError;
}

/** How one gets in: price levels, free entry, or another house's ticket link. */
export function TicketsSection({ tickets, onChange, words, error }: TicketsSectionProps) {
  const set = (part: Partial<Tickets>) => onChange({ ...tickets, ...part });
  const setLevel = (index: number, part: Partial<LevelDraft>) => set({ levels: tickets.levels.map((one, i) => (i === index ? { ...one, ...part } : one)) });
  const add = () => set({ levels: [...tickets.levels, { id: freshPartId(), name: tickets.levels.length === 0 ? 'Standard' : 'Concession', price: '', concession: tickets.levels.length > 0, quantity: '' }] });
  return (
    <Section id="tickets" title="Tickets">
      <div className={classes.inline}>
        <SegmentedControl aria-label="How one gets in" value={tickets.mode} onChange={(mode) => set({ mode: mode as Tickets['mode'] })} data={ticketModes.map((mode) => ({ value: mode, label: mode === 'elsewhere' ? 'sold elsewhere' : mode }))} />
        <Select aria-label="Currency" w={84} data={[...currencies]} value={tickets.currency} allowDeselect={false} onChange={(currency) => set({ currency: (currency ?? 'EUR') as Currency })} />
        {words === '' ? null : <span>the public reads: <b>{words}</b></span>}
      </div>
      {tickets.mode === 'elsewhere' ? <TextInput mt={10} label="Ticket link of the other house" value={tickets.link} placeholder="https://" error={error('tickets.link')} onChange={(e) => set({ link: e.currentTarget.value })} /> : null}
      {tickets.mode === 'free entry' ? <p className={classes.muted}>Free entry: nothing is sold, and no marketplace is needed.</p> : (
        <>
          {tickets.levels.map((level, i) => (
            <div key={level.id} className={classes.level} role="group" aria-label={`Price level ${i + 1}`}>
              <TextInput label="Price level" value={level.name} error={error(`tickets.levels.${i}.name`)} onChange={(e) => setLevel(i, { name: e.currentTarget.value })} />
              <TextInput label="Price" value={level.price} inputMode="decimal" error={error(`tickets.levels.${i}.price`)} onChange={(e) => setLevel(i, { price: e.currentTarget.value })} />
              <TextInput label="Tickets" value={level.quantity} inputMode="numeric" placeholder="room" error={error(`tickets.levels.${i}.quantity`)} onChange={(e) => setLevel(i, { quantity: e.currentTarget.value })} />
              <Checkbox label="concession" checked={level.concession} onChange={(e) => setLevel(i, { concession: e.currentTarget.checked })} />
              <button type="button" className="plainButton" onClick={() => set({ levels: tickets.levels.filter((one) => one.id !== level.id) })}>Take out</button>
            </div>
          ))}
          <div className={classes.inline}><button type="button" className="plainButton" onClick={add}>Add a price level</button></div>
        </>
      )}
    </Section>
  );
}
