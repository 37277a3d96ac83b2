import { useCallback, useEffect, useRef, useState } from 'react';
import type { FileJob, SaidOfTown } from '@/views/files';
import { isUnderWay } from './file-job';

const askEveryMs = 400;

/** A file that is read on the server: how far it is, and what can be done with it. It goes on when the page is left. */
export function useFileJob(jobs: readonly FileJob[]) {
  const [job, setJob] = useState<FileJob | null>(jobs.find(isUnderWay) ?? jobs[0] ?? null);
  const [sent, setSent] = useState<{ name: string; share: number } | null>(null);
  const [error, setError] = useState<string | null>(null);
  const upload = useRef<XMLHttpRequest | null>(null);
  const id = job !== null && isUnderWay(job) ? job.id : null;

  useEffect(() => {
    if (id === null) return;
    let gone = false;
    let timer: ReturnType<typeof setTimeout>;
    const ask = async () => {
      try {
        const answer = await fetch(`/api/files/${id}`, { cache: 'no-store' });
        const told = (await answer.json()) as FileJob & { message?: string };
        if (gone) return;
        if (answer.ok) setJob(told);
        else setError(told.message ?? 'It is not known how far the file is. Open this page again.');
        if (!answer.ok || !isUnderWay(told)) return;
      } catch {
        // The application is away for a moment: it is asked again.
      }
      if (!gone) timer = setTimeout(() => void ask(), askEveryMs);
    };
    timer = setTimeout(() => void ask(), askEveryMs);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [id]);

  const take = useCallback((file: File, zone: string | null) => {
    const request = new XMLHttpRequest();
    upload.current = request;
    setError(null);
    setSent({ name: file.name, share: 0 });
    request.upload.onprogress = (event) =>
      setSent({ name: file.name, share: event.total > 0 ? event.loaded / event.total : 0 });
    request.onloadend = () => {
      setSent(null);
      const told = parsed(request.responseText);
      if (request.status === 202 && told !== null) setJob(told as FileJob);
      else if (request.status !== 0 || upload.current === request)
        setError(told?.message ?? 'The file did not arrive: the application could not be reached. Choose it again.');
    };
    request.open(
      'POST',
      `/api/files?name=${encodeURIComponent(file.name.slice(-300))}${zone === null ? '' : `&zone=${encodeURIComponent(zone)}`}`,
    );
    request.send(file);
  }, []);

  const stop = async () => {
    if (upload.current !== null && sent !== null) {
      const request = upload.current;
      upload.current = null;
      request.abort();
      return;
    }
    if (job === null) return;
    const answer = await fetch(`/api/files/${job.id}`, { method: 'DELETE' }).catch(() => null);
    if (answer === null || !answer.ok)
      setError('It could not be stopped: the application could not be reached. Try again.');
  };

  const again = async (zone: string | null, answers: SaidOfTown[]) => {
    if (job === null) return;
    setError(null);
    const answer = await fetch(`/api/files/${job.id}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ zone, answers }),
    }).catch(() => null);
    const told = answer === null ? null : parsed(await answer.text());
    if (answer?.ok && told !== null) setJob(told as FileJob);
    else setError(told?.message ?? 'The application could not be reached. Try again.');
  };

  return { job, sent, error, setError, take, stop, again };
}

function parsed(text: string): (Partial<FileJob> & { message?: string }) | null {
  try {
    return JSON.parse(text) as Partial<FileJob> & { message?: string };
  } catch {
    return null;
  }
}
