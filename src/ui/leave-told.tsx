import Link from 'next/link';

/** Told once, when the first thing went by itself: what that was, and where to say otherwise. */
export function LeaveTold({ first, read }: { first: string | null; read: () => Promise<void> }) {
  if (first === null) return null;
  return (
    <form action={read} className="told" aria-label="Standing leave">
      <p>
        The clock changed what some channels are to say, and{' '}
        <Link href={`/dispatch/${first}`}>it was sent by itself</Link>, under the house’s standing leave. What a person
        changes still waits for a yes. Each channel’s leave can be taken back in <Link href="/channels">Channels</Link>.{' '}
        <button type="submit" className="plainButton">
          I have read it
        </button>
      </p>
    </form>
  );
}
