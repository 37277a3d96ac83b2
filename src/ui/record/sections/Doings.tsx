import { May, useMay } from '@/ui/may/May';
import { formatNames, whatFilesLeaveOut } from '@/core/formats/format-words';
import { isRedirect } from '@/ui/is-redirect';
import { noAnswer } from '@/ui/no-answer';
import classes from '../RecordForm.module.css';
import type { RecordScreenProps } from '../record-screen-props';

/** What can be done with the whole record: make the next event from it, or a tour. */
export function Doings({
  id,
  saved,
  title,
  changed,
  hasTour,
  onProblem,
}: {
  id: string;
  saved: NonNullable<RecordScreenProps['saved']>;
  title: string;
  changed: boolean;
  hasTour: boolean;
  onProblem: (words: string) => void;
}) {
  const doing = (work: Promise<string | null>) =>
    void work.then(
      (words) => words !== null && onProblem(words),
      // Being led on to what was made is no problem.
      (error: unknown) => !isRedirect(error) && onProblem(noAnswer),
    );
  const writes = useMay('write');
  const makeTour = () => {
    const name = window.prompt('What is the tour called?', `${title} tour`);
    if (name) doing(saved.makeTour(name));
  };
  return (
    <div className={classes.doings}>
      <May right="write">
        <button
          type="button"
          className="plainButton"
          disabled={changed}
          title={changed ? 'Save or undo your changes first.' : undefined}
          onClick={() => doing(saved.copy())}
        >
          Copy this event
        </button>
      </May>
      <May right="export">
        <span className={classes.files}>
          As a file:{' '}
          {(['ics', 'csv', 'json'] as const).map((format) => (
            <a
              key={format}
              href={`/api/export?${new URLSearchParams({ format, record: id }).toString()}`}
              title={whatFilesLeaveOut}
              aria-describedby="files-leave-out"
              download
            >
              {formatNames[format]}
            </a>
          ))}
          <span id="files-leave-out" hidden>
            {whatFilesLeaveOut}
          </span>
        </span>
      </May>
      {hasTour || !writes ? null : (
        <button
          type="button"
          className="plainButton"
          disabled={changed}
          title={changed ? 'Save or undo your changes first.' : undefined}
          onClick={makeTour}
        >
          Make a tour of it
        </button>
      )}
    </div>
  );
}
