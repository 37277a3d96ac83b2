import dynamic from 'next/dynamic';
import { notFetched } from '@/ui/not-fetched';
import { Textarea, TextInput } from '@mantine/core';
import { memo, useDeferredValue, useMemo } from 'react';
import type { Wording } from '@/core/record/directory';
import type { Facts } from '@/core/facts/facts';
import { cleanHtml, plainToHtml } from '@/core/words/markup';
import type { RecordDraft } from '@/core/record/draft';
import type { PictureUse, ToFollow } from '@/core/record/record';
import { wordLengths, type WordLength } from '@/core/record/choices';
import { draftShorter } from '@/core/words/drafts';
import type { MentionContext } from '@/core/words/mention';
import { FactText } from './FactText';
import { type KeepFollow } from './FollowWords';
import { More, Section, type FieldError } from '../form-parts';
import { FullText } from './FullText';
import { PutInWording } from './PutInWording';
import { useFindMentions } from '@/ui/mention-list/use-find-mentions';
import { useFills } from '@/ui/may/Fields';
import { useWantedBy } from '@/ui/use-channels';
import classes from '../RecordForm.module.css';

const Documents = dynamic(() => import('../links/Documents').then(({ Documents }) => Documents, notFetched));
const FollowWords = dynamic(() => import('./FollowWords').then(({ FollowWords }) => FollowWords, notFetched));
const NoticeFit = dynamic(() => import('./NoticeFit').then(({ NoticeFit }) => NoticeFit, notFetched));

type Words = RecordDraft['words'];

interface WordsSectionProps {
  words: Words;
  onChange: (words: Words) => void;
  error: FieldError;
  facts: Facts;
  context: Omit<MentionContext, 'facts'>;
  wordings: readonly Wording[];
  pictures: readonly PictureUse[];
  documents: RecordDraft['documents'];
  performances: RecordDraft['performances'];
  onDocuments: (documents: RecordDraft['documents']) => void;
  toFollow: ToFollow;
  onToFollow: (words: ToFollow) => void;
  /** What the house says of what is to follow, and saying otherwise. */
  houseFollow: ToFollow;
  keepFollow: KeepFollow;
  /** A file is on its way: a save waits for it. */
  onBusy: (busy: boolean) => void;
}

const labels: Record<WordLength, string> = { line: 'Line', teaser: 'Teaser', short: 'Short text' };

/** The words in four lengths, held against the facts as one writes; a shorter one can be drafted from a longer. */
export const WordsSection = memo(function WordsSection(props: WordsSectionProps) {
  const writing = useWriting(props);
  const { field, wordings, onChange, words, whole, error } = writing;
  const fills = useFills('words') === 'all';
  return (
    <Section id="words" title="Words" aside={fills ? 'type {{ for a fact that follows the record' : null}>
      {field('teaser', 2)}
      <div className={classes.inline}>
        <PutInWording
          label="Put in a wording"
          wordings={wordings}
          onPut={({ text }) => onChange({ ...words, full: cleanHtml(words.full + plainToHtml(text)) })}
        />
      </div>
      <FullText
        value={words.full}
        onChange={(full) => onChange({ ...words, full })}
        context={whole}
        pictures={props.pictures}
        error={error('words.full')}
      />
      <MoreWords writing={writing} />
    </Section>
  );
});

/** What words are written with. */
function useWriting({ words, onChange, error, facts, context, wordings, ...props }: WordsSectionProps) {
  const documentsOn = useWantedBy('document-title');
  const slow = useDeferredValue(words);
  const findMentions = useFindMentions();
  const whole = useMemo<MentionContext>(() => ({ ...context, facts }), [context, facts]);
  const mentions = useMemo(
    () => ({
      line: findMentions(slow.line, whole),
      teaser: findMentions(slow.teaser, whole),
      short: findMentions(slow.short, whole),
    }),
    [findMentions, slow.line, slow.teaser, slow.short, whole],
  );
  const write = (length: WordLength, text: string) =>
    onChange({ ...words, [length]: text, drafted: words.drafted.filter((candidate) => candidate !== length) });
  const draft = (length: WordLength) => {
    const made = draftShorter(words, length);
    if (made)
      onChange({
        ...words,
        [length]: made.text,
        drafted: [...words.drafted.filter((candidate) => candidate !== length), length],
      });
  };
  const field = (length: WordLength, rows: number) => (
    <FactText
      key={length}
      label={labels[length]}
      limit={wordLengths[length]}
      rows={rows}
      value={words[length]}
      error={error(`words.${length}`)}
      mentions={slow[length] === words[length] ? mentions[length] : []}
      drafted={words.drafted.includes(length)}
      onDraft={words[length].trim() === '' && draftShorter(words, length) !== null ? () => draft(length) : null}
      onLooked={() => onChange({ ...words, drafted: words.drafted.filter((candidate) => candidate !== length) })}
      onChange={(text) => write(length, text)}
    />
  );
  return { words, field, error, onChange, facts, documentsOn, props, wordings, whole };
}

type Writing = ReturnType<typeof useWriting>;

/** Words that are seldom needed: access, age, documents, what is not known yet. */
function MoreWords({ writing: { words, field, error, onChange, facts, documentsOn, props } }: { writing: Writing }) {
  return (
    <>
      <More
        label="line, short text, access, age guidance, and how a short post comes out"
        open={words.line !== '' || words.short !== '' || words.access !== '' || words.age !== ''}
      >
        {field('line', 1)}
        {field('short', 3)}
        <div className={classes.grid}>
          <TextInput
            className={classes.w2}
            label="Age guidance"
            value={words.age}
            error={error('words.age')}
            onChange={(e) => onChange({ ...words, age: e.currentTarget.value })}
          />
          <Textarea
            className={classes.w4}
            label="Access"
            autosize
            minRows={1}
            maxRows={4}
            value={words.access}
            error={error('words.access')}
            onChange={(e) => onChange({ ...words, access: e.currentTarget.value })}
          />
        </div>
        <NoticeFit facts={facts} />
      </More>
      <More label="documents that go with it" wantedBy={documentsOn} open={props.documents.length > 0}>
        <Documents
          documents={props.documents}
          performances={props.performances}
          onChange={props.onDocuments}
          error={error}
          onBusy={props.onBusy}
        />
      </More>
      <More label="words for what is not known yet" open={Object.keys(props.toFollow).length > 0}>
        <FollowWords
          words={props.toFollow}
          onChange={props.onToFollow}
          house={props.houseFollow}
          keep={props.keepFollow}
          error={error}
        />
      </More>
    </>
  );
}
