import { Checkbox, Select, TagsInput, Textarea, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { Question } from '@/core/record/ticket-schema';
import { answers, asked } from '@/core/record/choices';
import type { QuestionSet } from '@/views/record';
import { WhereOpen } from '@/ui/may/Fields';
import { noAnswer } from '@/ui/no-answer';
import { freshPartId, type FieldError } from '../form-parts';
import classes from '../RecordForm.module.css';

/** Questions that are kept under a name, to be asked again. */
/** What keeps a set of questions; gives a message where that cannot be. */
export type KeepQuestions = (set: QuestionSet) => Promise<string | null>;

interface QuestionsProps {
  questions: Question[];
  onChange: (questions: Question[]) => void;
  error: FieldError;
  sets: readonly QuestionSet[];
  keep: KeepQuestions | null;
}

const askedWords: Record<(typeof asked)[number], string> = {
  buyer: 'who orders',
  companion: 'each who comes along',
  both: 'both',
};
const answerWords: Record<(typeof answers)[number], string> = {
  text: 'one line',
  long: 'several lines',
  'yes or no': 'yes or no',
  'one of': 'one of',
  'several of': 'several of',
  email: 'e-mail',
  telephone: 'telephone',
  'postal address': 'postal address',
  date: 'date',
  consent: 'a consent',
};

/**
 * What is asked of those who order or register, each with how it is answered and of whom; whole sets are kept and
 * reused.
 */
export function Questions(props: QuestionsProps) {
  const list = useQuestionChanges(props);
  const { questions, onChange, sets, keep } = list;
  return (
    <>
      {questions.map((question, i) => (
        <QuestionRow key={question.id} list={list} question={question} i={i} />
      ))}
      <div className={classes.inline}>
        <button
          type="button"
          className="plainButton"
          onClick={() =>
            onChange([
              ...questions,
              { id: freshPartId(), ask: '', answer: 'text', choices: [], needed: false, of: 'buyer', consent: '' },
            ])
          }
        >
          Ask a question
        </button>
        <WhereOpen>
          {sets.length > 0 ? (
            <Select
              w={190}
              aria-label="Put in a kept set of questions"
              placeholder="put in a kept set"
              data={sets.map((set) => set.name)}
              value={null}
              onChange={(name) => {
                const found = sets.find((set) => set.name === name);
                if (found)
                  onChange([...questions, ...found.questions.map((question) => ({ ...question, id: freshPartId() }))]);
              }}
            />
          ) : null}
        </WhereOpen>
        {keep && questions.length > 0 ? <KeepSet questions={questions} keep={keep} /> : null}
      </div>
    </>
  );
}

/** What questions are changed with. */
function useQuestionChanges({ questions, onChange, error, sets, keep }: QuestionsProps) {
  const set = (id: string, part: Partial<Question>) =>
    onChange(questions.map((question) => (question.id === id ? { ...question, ...part } : question)));
  const at = (i: number, field: string) => error(`tickets.questions.${i}.${field}`);
  return { at, set, onChange, questions, sets, keep };
}

type QuestionChanges = ReturnType<typeof useQuestionChanges>;

/** One question: of whom it is asked, and how it is answered. */
function QuestionRow({
  list: { at, set, onChange, questions },
  question,
  i,
}: {
  list: QuestionChanges;
  question: Question;
  i: number;
}) {
  return (
    <div className={classes.inline} role="group" aria-label={`Question ${i + 1}`}>
      <TextInput
        style={{ flex: '1 1 200px' }}
        label="Ask"
        autoFocus={question.ask === ''}
        value={question.ask}
        error={at(i, 'ask')}
        onChange={(e) => set(question.id, { ask: e.currentTarget.value })}
      />
      <Select
        w={110}
        label="Answer"
        data={answers.map((value) => ({ value, label: answerWords[value] }))}
        value={question.answer}
        allowDeselect={false}
        onChange={(answer) => set(question.id, { answer: (answer ?? 'text') as Question['answer'] })}
      />
      <Select
        w={130}
        label="Of"
        data={asked.map((value) => ({ value, label: askedWords[value] }))}
        value={question.of}
        allowDeselect={false}
        onChange={(of) => set(question.id, { of: (of ?? 'buyer') as Question['of'] })}
      />
      <Checkbox
        label="needed"
        checked={question.needed}
        onChange={(e) => set(question.id, { needed: e.currentTarget.checked })}
      />
      <button
        type="button"
        className="plainButton"
        aria-label={`Remove question ${i + 1}`}
        onClick={() => onChange(questions.filter((candidate) => candidate.id !== question.id))}
      >
        remove
      </button>
      {question.answer === 'one of' || question.answer === 'several of' ? (
        <TagsInput
          style={{ flexBasis: '100%' }}
          label="Choices"
          value={question.choices}
          error={at(i, 'choices')}
          onChange={(choices) => set(question.id, { choices })}
        />
      ) : null}
      {question.answer === 'consent' ? (
        <Textarea
          style={{ flexBasis: '100%' }}
          label="What one says yes to"
          autosize
          minRows={1}
          maxRows={5}
          value={question.consent}
          error={at(i, 'consent')}
          onChange={(e) => set(question.id, { consent: e.currentTarget.value })}
        />
      ) : null}
    </div>
  );
}

function KeepSet({ questions, keep }: { questions: Question[]; keep: KeepQuestions }) {
  const [name, setName] = useState<string | null>(null);
  const [said, setSaid] = useState('');
  if (name === null)
    return (
      <>
        <button type="button" className="plainButton" onClick={() => setName('')}>
          Keep these as a set
        </button>
        {said === '' ? null : <span role="status">{said}</span>}
      </>
    );
  const done = async () => {
    const problem =
      name.trim() === '' ? 'Give the set a name.' : await keep({ name: name.trim(), questions }).catch(() => noAnswer);
    setSaid(problem ?? `Kept as “${name.trim()}”.`);
    if (problem === null) setName(null);
  };
  return (
    <>
      <TextInput
        w={150}
        aria-label="Name of the set"
        placeholder="name of the set"
        autoFocus
        value={name}
        error={said}
        onChange={(e) => setName(e.currentTarget.value)}
      />
      <button type="button" className="plainButton" onClick={() => void done()}>
        Keep it
      </button>
      <button type="button" className="plainButton" onClick={() => setName(null)}>
        not now
      </button>
    </>
  );
}
