'use client';

import { useCallback, useDeferredValue, useMemo } from 'react';
import { sells } from '@/core/listing/channel-rules';
import { replacedFacts } from '@/core/record/copy-record';
import type { OnOverride } from '@/ui/proof-column';
import { useChannels } from '@/ui/use-channels';
import type { RecordContext } from '@/views/record';
import { publicityParts } from './sections/publicity-parts';
import { essentialParts } from './sections/essentials-props';
import { withOverride } from './screen-words';
import { useParts } from './use-parts';
import type { DraftState } from './use-record-draft';
import { useSectionSetters } from './use-section-setters';

/** What several sections read beside the draft: the same objects as long as nothing of theirs changed. */
export function useFormContext(context: RecordContext, state: DraftState) {
  const { draft, change, trailing, content, venues, base } = state;
  const { performances } = trailing.facts;
  const channels = useChannels();
  const mentions = useMemo(() => {
    const venueIds = new Set(performances.map((performance) => performance.place?.venueId));
    return {
      now: context.now,
      earlier: context.earlier,
      rooms: [...venues.values()]
        .filter((venue) => venueIds.has(venue.id))
        .flatMap((venue) => venue.rooms.map((room) => room.name)),
    };
  }, [performances, context.now, context.earlier, venues]);
  return {
    put: useSectionSetters(change),
    /** What words that name a day or a place are held against. */
    mentions,
    whole: useMemo(() => ({ ...mentions, facts: trailing.facts }), [mentions, trailing.facts]),
    /** Facts that a copy brought and that say something else by now. */
    replaced: useMemo(() => new Set(content ? replacedFacts(base.content, content) : []), [content, base.content]),
    /** Somebody sells it already. */
    opened: trailing.listings.some((listing) => {
      const rules = channels.of(listing.channel)?.rules;
      return rules !== undefined && sells(rules) && listing.state.sent !== null;
    }),
    told: useMemo(() => trailing.listings.flatMap((listing) => listing.findings), [trailing.listings]),
    // Sections that only name the dates follow them a frame later.
    dates: useDeferredValue(draft.performances),
    aboutPublicity: useParts(draft, publicityParts),
    aboutEssentials: useParts(draft, essentialParts),
    onOverride: useCallback<OnOverride>(
      (channel, field, next) => change((at) => ({ overrides: withOverride(at.overrides, channel, field, next) })),
      [change],
    ),
    onDraft: useCallback(
      (channel: string, on: boolean) =>
        change(({ draftOn }) => ({
          draftOn: on ? [...new Set([...draftOn, channel])] : draftOn.filter((candidate) => candidate !== channel),
        })),
      [change],
    ),
  };
}

export type FormContext = ReturnType<typeof useFormContext>;
