import { useMay } from '@/ui/may/May';
import dynamic from 'next/dynamic';
import { notFetched } from '@/ui/not-fetched';
import { DatesSection } from './dates/DatesSection';
import { More, type fieldErrors } from './form-parts';
import type { RecordScreenProps } from './record-screen-props';
import { EssentialsSection } from './sections/EssentialsSection';
import type { HistoryActions } from './sections/HistorySection';
import type { FormContext } from './use-form-context';
import type { DraftState } from './use-record-draft';
import type { Saving } from './use-save-record';
import { WordsSection } from './words/WordsSection';

const LineUpSection = dynamic(() =>
  import('./sections/LineUpSection').then(({ LineUpSection }) => LineUpSection, notFetched),
);
const NoticesSection = dynamic(() =>
  import('./words/NoticesSection').then(({ NoticesSection }) => NoticesSection, notFetched),
);
const HistorySection = dynamic(() =>
  import('./sections/HistorySection').then(({ HistorySection }) => HistorySection, notFetched),
);
const PicturesSection = dynamic(() =>
  import('./pictures/PicturesSection').then(({ PicturesSection }) => PicturesSection, notFetched),
);
const TicketsSection = dynamic(() =>
  import('./tickets/TicketsSection').then(({ TicketsSection }) => TicketsSection, notFetched),
);
const PublicitySection = dynamic(() =>
  import('./sections/PublicitySection').then(({ PublicitySection }) => PublicitySection, notFetched),
);
const Endings = dynamic(() => import('./sections/Endings').then(({ Endings }) => Endings, notFetched), { ssr: false });

const noActions: HistoryActions = { changes: () => Promise.resolve(null), restore: () => Promise.resolve(null) };

interface SectionsProps extends RecordScreenProps {
  today: string;
  state: DraftState;
  form: FormContext;
  saving: Saving;
  error: ReturnType<typeof fieldErrors>;
}

/** What decides the rest: what the event is, when and where; then how it looks and what is said of it. */
export function FirstSections(props: SectionsProps) {
  const { context, makeVenue, savePerson, keepFollow, today, state, form, saving, error } = props;
  const { draft, change } = state;
  return (
    <>
      <EssentialsSection
        draft={draft}
        rest={form.aboutEssentials}
        onChange={change}
        error={error}
        mode={draft.tickets.mode}
        precision={draft.performances.length === 1 ? (draft.performances[0]?.precision ?? null) : null}
        organisers={state.organisers}
        addOrganiser={state.addOrganiser}
        savePerson={savePerson}
        tours={context.tours}
        types={context.house.types}
      />
      <DatesSection
        performances={draft.performances}
        rule={draft.rule}
        onChange={form.put.performances}
        venues={state.venues}
        error={error}
        makeVenue={makeVenue}
        addVenue={state.addVenue}
        lineUp={draft.lineUp}
        clashes={context.clashes}
        recordId={context.id}
        today={today}
        doorsBefore={context.house.doorsBefore}
      />
      <PicturesSection pictures={draft.pictures} onChange={form.put.pictures} error={error} onBusy={saving.onBusy} />
      <WordsSection
        words={draft.words}
        onChange={form.put.words}
        error={error}
        facts={state.trailing.facts}
        context={form.mentions}
        wordings={context.wordings}
        pictures={draft.pictures}
        documents={draft.documents}
        performances={form.dates}
        onDocuments={form.put.documents}
        toFollow={draft.toFollow}
        onToFollow={form.put.toFollow}
        houseFollow={context.house.follow}
        keepFollow={keepFollow}
        onBusy={saving.onBusy}
      />
    </>
  );
}

/** What its kind and its channels ask for beside: who is on, what it costs, to whom it is told; what became of it. */
export function RestSections(props: SectionsProps) {
  const [writes, counts] = [useMay('write'), useMay('count')];
  const { context, log, zone, savePerson, keepQuestions, preview, saved, today, state, form, error } = props;
  const { draft, change } = state;
  return (
    <>
      <LineUpSection
        lineUp={draft.lineUp}
        onChange={form.put.lineUp}
        error={error}
        artists={state.artists}
        addArtist={state.addArtist}
        savePerson={savePerson}
        roles={context.house.roles}
        kind={draft.eventType}
        programme={draft.programme}
        performances={form.dates}
        onProgramme={form.put.programme}
      />
      <TicketsSection
        tickets={draft.tickets}
        onChange={form.put.tickets}
        facts={state.trailing.facts}
        houseOn={state.houseOn}
        performances={form.dates}
        sales={context.sales}
        sources={context.sources}
        noteSold={counts ? (saved?.noteSold ?? null) : null}
        questionSets={context.house.questionSets}
        keepQuestions={writes ? keepQuestions : null}
        ticks={context.ticks}
        tick={writes ? (saved?.tick ?? null) : null}
        trial={writes ? (saved?.trial ?? null) : null}
        opened={form.opened}
        zone={zone}
        now={context.now}
        error={error}
      />
      <PublicitySection
        draft={form.aboutPublicity}
        onChange={change}
        error={error}
        survey={state.trailing}
        today={today}
        zone={zone}
      />
      <NoticesSection
        notices={draft.notices}
        onChange={form.put.notices}
        error={error}
        facts={state.trailing.facts}
        context={form.mentions}
        listings={state.trailing.listings}
        today={today}
        preview={preview}
        wordings={context.wordings}
      />
      <HistorySection log={log} deeds={context.deeds} zone={zone} changed={state.changed} {...(saved ?? noActions)} />
      {writes && saved && context.endings !== null && context.endings.awayAt === null ? (
        <More label="cut the tie to a channel, put away, delete" open={false}>
          <Endings endings={context.endings} saved={saved} code={context.code} changed={state.changed} />
        </More>
      ) : null}
    </>
  );
}
