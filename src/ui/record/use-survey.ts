import { useEffect, useMemo, useState } from 'react';
import { surveyRecord, type Survey } from '@/channels/survey';
import { type SurveyInput } from '@/channels/survey-shapes';
import { surveyBeside } from '../reckoner';

/**
 * The survey of what stands in the form. Of a long run it is reckoned beside the screen, so that five hundred listings
 * never stand between two keys; until it is there, the one before it stands.
 */
export function useSurvey(input: SurveyInput, long: boolean): Survey {
  const atOnce = useMemo(() => (long ? null : surveyRecord(input)), [input, long]);
  const [late, setLate] = useState<{ input: SurveyInput; survey: Survey } | null>(null);
  // Once, when the screen opens or the run becomes a long one.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const opening = useMemo(() => (long ? { input, survey: surveyRecord(input) } : null), [long]);
  const stands = late ?? opening;
  useEffect(() => {
    if (!long || stands?.input === input) return;
    let newest = true;
    void surveyBeside(input).then((survey) => survey && newest && setLate({ input, survey }));
    return () => void (newest = false);
  }, [input, long, stands]);
  return atOnce ?? stands?.survey ?? surveyRecord(input);
}
