import { Checkbox, Select, TagsInput, Textarea, TextInput } from '@mantine/core';
import type { TicketsDraft } from '@/core/draft';
import { freshPartId, type FieldError } from './form-parts';
import classes from './RecordForm.module.css';

interface RegistrationFieldsProps {
  tickets: TicketsDraft;
  onChange: (part: Partial<TicketsDraft>) => void;
  error: FieldError;
}

type Question = TicketsDraft['registration']['questions'][number];

/** Free with registration: where, how many, what is asked, and what is written to whom. */
export function RegistrationFields({ tickets, onChange, error }: RegistrationFieldsProps) {
  const { registration } = tickets;
  const set = (part: Partial<typeof registration>) => onChange({ registration: { ...registration, ...part } });
  const setQuestion = (id: string, part: Partial<Question>) => set({ questions: registration.questions.map((one) => (one.id === id ? { ...one, ...part } : one)) });
  const text = (key: 'yes' | 'no' | 'waiting', label: string) => <Textarea mt={8} label={label} autosize minRows={1} maxRows={6} value={registration[key]} error={error(`tickets.registration.${key}`)} onChange={(e) => set({ [key]: e.currentTarget.value })} />;
  return (
    <>
      <div className={classes.grid}>
        <TextInput className={classes.w4} label="Registration page" value={tickets.link} placeholder="https://" error={error('tickets.link')} onChange={(e) => onChange({ link: e.currentTarget.value })} />
        <TextInput className={classes.w2} label="Registrations at most" value={registration.limit} placeholder="no limit" error={error('tickets.registration.limit')} onChange={(e) => set({ limit: e.currentTarget.value })} />
      </div>
      <div className={classes.inline}>
        <Checkbox label="a person says yes to each" checked={registration.approval} onChange={(e) => set({ approval: e.currentTarget.checked })} />
        <Checkbox label="waiting list when full" checked={registration.waitingList} onChange={(e) => set({ waitingList: e.currentTarget.checked })} />
      </div>
      {registration.questions.map((one, i) => (
        <div key={one.id} className={classes.inline} role="group" aria-label={`Question ${i + 1}`}>
          <TextInput style={{ flex: 1 }} label="Ask" value={one.ask} error={error(`tickets.registration.questions.${i}.ask`)} onChange={(e) => setQuestion(one.id, { ask: e.currentTarget.value })} />
          <Select w={110} label="Answer" data={['text', 'yes or no', 'one of']} value={one.answer} allowDeselect={false} onChange={(answer) => setQuestion(one.id, { answer: (answer ?? 'text') as Question['answer'] })} />
          <Checkbox label="needed" checked={one.needed} onChange={(e) => setQuestion(one.id, { needed: e.currentTarget.checked })} />
          <button type="button" className="plainButton" onClick={() => set({ questions: registration.questions.filter((each) => each.id !== one.id) })}>out</button>
          {one.answer === 'one of' ? <TagsInput style={{ flexBasis: '100%' }} label="Choices" value={one.choices} onChange={(choices) => setQuestion(one.id, { choices })} /> : null}
        </div>
      ))}
      <div className={classes.inline}><button type="button" className="plainButton" onClick={() => set({ questions: [...registration.questions, { id: freshPartId(), ask: '', answer: 'text', choices: [], needed: false }] })}>Ask a question</button></div>
      {text('yes', 'Written to those who have a place')}
      {text('no', 'Written to those who do not')}
      {registration.waitingList ? text('waiting', 'Written to those who wait') : null}
    </>
  );
}
