import { useEffect, useMemo, useState } from 'react';
import { surveyRecord, surveySteps, type Survey, type SurveyInput } from '@/channels/survey';

/** How long the survey of a long run may hold up the screen at a time, in ms. */
const sliceMs = 8;

const pause = () => new Promise<void>((go) => setTimeout(go, 0));

/** Surveys in slices; `null`: something newer came meanwhile. */
async function inSlices(input: SurveyInput, wanted: () => boolean): Promise<Survey | null> {
  const steps = surveySteps(input);
  for (;;) {
    const since = performance.now();
    do {
      const step = steps.next();
      if (step.done) return step.value;
    } while (performance.now() - since < sliceMs);
    await pause();
    if (!wanted()) return null;
  }
}

/**
 * The survey of what stands in the form. Of a long run it follows in slices, so that five hundred listings never stand
 * between two keys; until it is there, the one before it stands.
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
    void inSlices(input, () => newest).then((survey) => survey && newest && setLate({ input, survey }));
    return () => void (newest = false);
  }, [input, long, stands]);
  return atOnce ?? stands?.survey ?? surveyRecord(input);
}
