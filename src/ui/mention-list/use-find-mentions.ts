import { useEffect, useState } from 'react';
import type { findMentions } from '@/core/words/mentions';

type Find = typeof findMentions;
const none: Find = () => [];
let find: Find = none;

/** What finds typed facts in words. It is fetched once a screen shows words; until then nothing is found. */
export function useFindMentions(): Find {
  const [known, setKnown] = useState<Find>(() => find);
  useEffect(() => {
    let there = true;
    void import('@/core/words/mentions').then(
      (module) => {
        find = module.findMentions;
        if (there) setKnown(() => find);
      },
      () => undefined,
    );
    return () => {
      there = false;
    };
  }, []);
  return known;
}
