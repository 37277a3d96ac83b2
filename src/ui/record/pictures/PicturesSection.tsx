import { Opener } from '@/ui/may/Opener';
import { TextInput } from '@mantine/core';
import dynamic from 'next/dynamic';
import { memo, useState } from 'react';
import { useChannels } from '@/ui/use-channels';
import { newPicture } from '@/core/record/new-record';
import { choosePicture, windowFor } from '@/core/pictures/picture-choice';
import type { PictureUse } from '@/core/record/record';
import { recordLimits } from '@/core/record/choices';
import { CropFrame } from '@/ui/proof-column/CropView';
import { More, Section, type FieldError } from '../form-parts';
import { useOpen, WhereOpen } from '@/ui/may/Fields';
import { useMay } from '@/ui/may/May';
import { notFetched } from '@/ui/not-fetched';
import { uploadPicture } from '@/ui/upload-picture';
import { PictureCanvas } from './PictureCanvas';
import classes from '../RecordForm.module.css';

const PickPicture = dynamic(() => import('./PickPicture').then(({ PickPicture }) => PickPicture, notFetched), {
  ssr: false,
});

interface PicturesSectionProps {
  pictures: PictureUse[];
  onChange: (pictures: PictureUse[]) => void;
  error: FieldError;
  /** A picture is on its way: a save waits for it. */
  onBusy: (busy: boolean) => void;
}

const mostBytes = 20 * 1024 * 1024;

/** The pictures: one is open at a time, with its focal point and keep-area, and every channel's crop beside it. */
export const PicturesSection = memo(function PicturesSection({
  pictures,
  onChange,
  error,
  onBusy,
}: PicturesSectionProps) {
  const [open, setOpen] = useState(0);
  const chosen = pictures[Math.min(open, pictures.length - 1)];
  const index = chosen ? pictures.indexOf(chosen) : -1;
  const set = (picture: PictureUse) => onChange(pictures.map((item, i) => (i === index ? picture : item)));
  const take = (picture: PictureUse) => {
    onChange([...pictures.filter((candidate) => candidate.pictureId !== picture.pictureId), picture]);
    setOpen(pictures.length);
  };
  return (
    <Section id="picture" title="Pictures" aside={pictures.length > 1 ? 'the best for each shape is chosen' : null}>
      {pictures.length > 1 ? (
        <div className={classes.strip} role="tablist" aria-label="Pictures">
          {pictures.map((picture, i) => (
            <Opener
              key={picture.pictureId}
              role="tab"
              aria-selected={i === index}
              aria-label={picture.alt || `Picture ${i + 1}`}
              onClick={() => setOpen(i)}
            >
              {/* eslint-disable-next-line @next/next/no-img-element -- drawn by our own route at the size shown */}
              <img src={`/api/pictures/${picture.pictureId}?width=200`} alt="" />
            </Opener>
          ))}
        </div>
      ) : null}
      {chosen ? (
        <div className={classes.picture}>
          <PictureCanvas picture={chosen} onChange={set} />
          <div>
            <TextInput
              label="Description, for those who cannot see it"
              value={chosen.alt}
              error={error(`pictures.${index}.alt`)}
              onChange={(e) => set({ ...chosen, alt: e.currentTarget.value })}
            />
            <TextInput
              mt={8}
              label="Credit"
              value={chosen.credit}
              error={error(`pictures.${index}.credit`)}
              onChange={(e) => set({ ...chosen, credit: e.currentTarget.value })}
            />
            <p className={classes.muted}>
              {chosen.width} × {chosen.height} px. The ring is what every crop keeps
              <WhereOpen>; drag across the picture to mark what it should hold whole</WhereOpen>.
            </p>
            {chosen.keep ? (
              <button type="button" className="plainButton" onClick={() => set({ ...chosen, keep: null })}>
                Forget the marked part
              </button>
            ) : null}{' '}
            <button
              type="button"
              className="plainButton"
              onClick={() => onChange(pictures.filter((picture) => picture !== chosen))}
            >
              Remove the picture
            </button>
          </div>
        </div>
      ) : null}
      {pictures.length > 0 ? <Crops pictures={pictures} chosen={chosen} /> : null}
      {pictures.length < recordLimits.pictures ? (
        <AddPicture pictures={pictures} onTaken={take} onBusy={onBusy} />
      ) : (
        <p className={classes.muted}>A record holds {recordLimits.pictures} pictures.</p>
      )}
    </Section>
  );
});

/** A picture more: from a file, or one that is kept. */
function AddPicture({
  pictures,
  onTaken,
  onBusy,
}: Pick<PicturesSectionProps, 'pictures' | 'onBusy'> & { onTaken: (picture: PictureUse) => void }) {
  const [fills, writes, browses] = [useOpen(), useMay('write'), useMay('browse')];
  if (!fills) return null;
  return (
    <>
      {writes ? <Upload first={pictures.length === 0} onTaken={onTaken} onBusy={onBusy} /> : null}
      {browses ? (
        <More label="pick one that is kept here already" open={false}>
          <PickPicture used={new Set(pictures.map((picture) => picture.pictureId))} onPick={onTaken} />
        </More>
      ) : null}
    </>
  );
}

/** Every channel's crop at once; the picture that is open is the chosen one, or says that another is. */
function Crops({ pictures, chosen }: { pictures: readonly PictureUse[]; chosen: PictureUse | undefined }) {
  const channels = useChannels();
  return (
    <div className={classes.crops} aria-label="Crops">
      {channels.all.map(({ rules }) => {
        if (rules.picture === null) return null;
        const best = choosePicture(pictures, rules.picture);
        if (!best) return null;
        const mine = chosen && windowFor(chosen, rules.picture);
        const cut = best.cuts.w + best.cuts.h;
        return (
          <figure key={rules.id} data-best={mine?.picture === best.picture || undefined}>
            <CropFrame
              picture={best.picture}
              window={best.window}
              ratio={rules.picture.ratio}
              label={`${rules.name} crop`}
            />
            <figcaption>
              {rules.name} {rules.picture.ratio.join(':')}
              {best.enlarged ? <em> too small</em> : null}
              {cut > 0 ? <em> cuts {Math.max(best.cuts.w, best.cuts.h)} px of the marked part</em> : null}
              {mine && mine.picture !== best.picture ? ' (another picture)' : ''}
            </figcaption>
          </figure>
        );
      })}
    </div>
  );
}

function Upload({
  first,
  onTaken,
  onBusy,
}: {
  first: boolean;
  onTaken: (picture: PictureUse) => void;
  onBusy: (busy: boolean) => void;
}) {
  const [progress, setProgress] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [over, setOver] = useState(false);
  const take = async (file: File | undefined) => {
    if (!file) return;
    setProblem(null);
    if (file.size > mostBytes)
      return setProblem(
        `“${file.name}” is ${(file.size / 1_048_576).toFixed(1)} MB; at most 20 MB are taken. Make it smaller and add it again.`,
      );
    setProgress(0);
    onBusy(true);
    const answer = await uploadPicture(file, setProgress);
    onBusy(false);
    setProgress(null);
    if ('message' in answer) setProblem(answer.message);
    else onTaken(newPicture(answer));
  };
  return (
    <>
      <label
        className={first ? classes.drop : classes.dropMore}
        data-over={over || undefined}
        onDragOver={(e) => {
          e.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(e) => {
          e.preventDefault();
          setOver(false);
          void take(e.dataTransfer.files[0]);
        }}
      >
        {progress !== null
          ? `Taking it in: ${Math.round(progress * 100)} %`
          : first
            ? 'Drop a picture here, or choose a file (20 MB at most)'
            : 'Add another picture, e.g. another shape'}
        <input
          type="file"
          accept="image/*"
          aria-label="Picture file"
          onChange={(e) => {
            void take(e.currentTarget.files?.[0]);
            e.currentTarget.value = '';
          }}
        />
      </label>
      {problem === null ? null : (
        <p className="problem" role="alert">
          {problem}
        </p>
      )}
    </>
  );
}
