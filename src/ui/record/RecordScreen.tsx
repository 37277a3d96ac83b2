'use client';

import dynamic from 'next/dynamic';
import { useEffect, useMemo, useRef } from 'react';
import { toLocal } from '@/core/base/zones';
import { fieldOf } from '@/core/findings/finding';
import { ProofColumn } from '@/ui/proof-column';
import { UnreadFields, useUnreadFields } from '@/ui/date-field';
import { notFetched } from '@/ui/not-fetched';
import { Still, useReady } from '@/ui/ready';
import { fieldErrors } from './form-parts';
import { pathWords } from './path-words';
import classes from './RecordForm.module.css';
import { Meanwhile, RecordHead } from './RecordHead';
import { FirstSections, RestSections } from './RecordSections';
import { SaveBar } from './SaveBar';
import { SectionsNav } from './SectionsNav';
import { useChange } from './change/use-change';
import { useFormContext } from './use-form-context';
import { useRecordDraft } from './use-record-draft';
import { useSaveRecord } from './use-save-record';
import type { RecordScreenProps } from './record-screen-props';

const ChangePanel = dynamic(() => import('./change/ChangePanel').then(({ ChangePanel }) => ChangePanel, notFetched));

/** The record: its sections, its fields, and the proof of every channel beside them. */
export function RecordScreen(props: RecordScreenProps) {
  const { context, log, zone, saved } = props;
  const ready = useReady();
  const state = useRecordDraft(context);
  const unread = useUnreadFields();
  const saving = useSaveRecord(props, state, unread.problems);
  const form = useFormContext(context, state);
  const { findings, survey, draft } = state;
  const visible = useMemo(
    () => (saving.tried ? findings : findings.filter((finding) => finding.code !== 'title-empty')),
    [findings, saving.tried],
  );
  const error = useMemo(() => fieldErrors(visible), [visible]);
  const wrong = useMemo(
    () => [...new Set(visible.map((finding) => pathWords(fieldOf(finding)).replace(' (minor units)', '')))],
    [visible],
  );
  const isNew = context.id === null;
  const changing = useChange(props, state, saving, unread.problems);
  const outside = saved !== undefined && survey.listings.some(({ state: { sent } }) => sent !== null);
  const screen = useTitleFocus(ready, isNew);
  const revert = () => {
    state.revert();
    unread.drop();
    saving.tell([]);
  };
  const today = toLocal(context.now, zone).date;
  const sections = { ...props, today, state, form, saving, error };
  return (
    <div ref={screen} className={classes.record} data-change={changing.view !== null || undefined}>
      <Still ready={ready}>
        <SectionsNav {...props} today={today} state={state} visible={visible} told={form.told} saving={saving} />
      </Still>
      <div className={classes.work}>
        {changing.view === null ? null : <ChangePanel view={changing.view} changing={changing} saving={saving} />}
        <div className={classes.form} data-work tabIndex={ready ? -1 : 0}>
          <RecordHead now={context.now} state={state} />
          <Still ready={ready}>
            <UnreadFields kept={unread.kept}>
              <Meanwhile {...{ saved, changing, context, today, log, zone, state, saving, form }} />
              <FirstSections {...sections} />
              <RestSections {...sections} />
            </UnreadFields>
          </Still>
        </div>
        <Still ready={ready}>
          <SaveBar
            survey={survey}
            changed={state.changed}
            stopped={visible.length}
            isNew={isNew}
            busy={saving.busy || changing.busy}
            messages={saving.messages}
            reason={saving.reason}
            onReason={saving.setReason}
            onSave={saving.submit}
            onYes={saved ? saving.sayYes : null}
            onLook={outside ? changing.look : null}
            onRevert={revert}
          />
        </Still>
      </div>
      <Still ready={ready}>
        <ProofColumn
          listings={survey.listings}
          calm={isNew && draft.title.trim() === '' && !saving.tried}
          pictures={draft.pictures}
          zone={zone}
          overrides={draft.overrides}
          context={form.whole}
          onOverride={form.onOverride}
          onDraft={form.onDraft}
          wrong={wrong}
        />
      </Still>
    </div>
  );
}

/** A new record begins in its title. Gives what the screen is to be marked with. */
function useTitleFocus(ready: boolean, isNew: boolean) {
  const screen = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!ready || !isNew) return;
    // A moment later: until it is painted, a page that is led to takes no focus.
    const timer = setTimeout(() => {
      // Who has begun in another field already is not led away from it.
      if (!screen.current?.contains(document.activeElement))
        screen.current?.querySelector<HTMLInputElement>('[data-title]')?.focus();
    }, 80);
    return () => clearTimeout(timer);
  }, [ready, isNew]);
  return screen;
}
